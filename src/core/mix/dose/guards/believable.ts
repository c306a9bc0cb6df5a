import { isMoved } from '../../../chem/degassing';
import { say } from '../record';
import { type Guard, spreadOf } from './guard';

/** A reading older than this is not dosed on; in moved water pH climbs while one looks away. */
const STALE_H = 12;
const STALE_MOVED_H = 3;

/** A pH does not go towards the target by so much within an hour unless somebody poured. */
const MOVED = 0.12;
const SOON_MS = 3_600_000;
/** Read twice within this, somebody may have poured between: a note is written within minutes (common practice, no source). */
const TWICE_MS = 5 * 60_000;

/** Not on a reading that is in doubt, old, from before the last addition, or of a probe that cannot tell the way from nothing. */
export const believable: Guard = {
	name: 'believable',
	check: (g) => {
		const { q, b, ph, phAt, reading, sign } = g;
		if (q.doubt) return { say: 'refuse', said: q.doubt };
		const since = b.filling.happenings.findLast((h) => h.at >= phAt && h.does !== 'nothing');
		// While it mixes that is what is said (mixed.ts).
		if (since && q.now - since.at >= b.mixMinutes * 60_000) {
			const e = since.event;
			return {
				say: 'refuse',
				said: say('added-since', {
					what: e.kind === 'dosed' ? e.product : e.kind,
					amount: e.kind === 'dosed' ? e.ml : e.kind === 'water' ? (e.litres ?? 0) : 0,
					unit: e.kind === 'dosed' ? 'mL' : 'L',
				}),
			};
		}
		if (b.filling.filledAt !== null && b.filling.filledAt > phAt)
			return { say: 'refuse', said: say('added-since', { what: 'filled', amount: b.filling.litres, unit: 'L' }) };
		const hours = (q.now - phAt) / 3_600_000;
		const most = isMoved(q.tank.aeration) ? STALE_MOVED_H : STALE_H;
		if (hours > most) return { say: 'refuse', said: say('stale', { hours, most }) };
		const before = b.filling.readings.findLast((r) => r.at < phAt);
		const untold =
			before &&
			phAt - before.at <= SOON_MS &&
			!b.filling.happenings.some((h) => h.at >= before.at && h.at < phAt && h.does !== 'nothing');
		if (untold && (ph - before.value) * sign > MOVED)
			return {
				say: 'refuse',
				said: say('moved-untold', { from: before.value, to: ph, minutes: Math.round((phAt - before.at) / 60_000) }),
			};
		// Read a second time at once: what was poured between the two may not be noted yet.
		const asked = untold ? lastAsked(b.filling.readings.filter((r) => r.at <= phAt)) : phAt;
		if (!since && asked < phAt && q.now - asked < TWICE_MS) {
			const minutes = Math.ceil((asked + TWICE_MS - q.now) / 60_000);
			return {
				say: 'wait',
				minutes,
				said: say('read-twice', { minutes, since: Math.round((q.now - asked) / 60_000) }),
			};
		}
		const way = Math.abs(ph - q.targetPh);
		const known = Math.abs(q.knownErrorPh ?? 0);
		if (known > way) return { say: 'refuse', said: say('probe-off', { error: known, way, by: reading?.by ?? '' }) };
		const spread = spreadOf(g);
		if (spread > way) return { say: 'refuse', said: say('probe-unsure', { spread, way, by: reading?.by ?? '' }) };
		return null;
	},
};

/** The newest reading that may have been poured on: one that came too soon after another was answered with a wait. */
function lastAsked(readings: readonly { at: number }[]): number {
	let asked = Number.NEGATIVE_INFINITY;
	for (const r of readings) if (r.at - asked >= TWICE_MS) asked = r.at;
	return asked;
}
