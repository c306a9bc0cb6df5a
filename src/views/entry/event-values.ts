import { decimal } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import { parseWhen, typedWhen } from '@/core/quantity/when';
import { doubtOfEvent, type EventDoubt } from '@/core/reading/event-doubt';
import { type EventKind, POURING_KINDS } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS } from '@/words/en/event';
import { whenProblem } from '@/words/en/when';

/** What a person types of something that was done to the water. */
export interface EventValues {
	kind: EventKind;
	station: string;
	amount: string;
	unit: string;
	product: string;
	note: string;
	/** Empty for now. */
	when: string;
}
export interface EventBody {
	station: string;
	time: string;
	kind: EventKind;
	amount: number | null;
	unit: string;
	product: string;
	note: string;
}

/** What is logged by hand. */
export const LOGGED = [
	...POURING_KINDS,
	'irrigated',
	'probe_cleaned',
	'probe_out',
	'lights_on',
	'lights_off',
	'note',
] as const satisfies readonly EventKind[];

/** Units that an amount of a kind may be given in, the usual one first; none where it has no amount. */
export function unitsOf(kind: EventKind): readonly string[] {
	const usual = EVENT_WORDS[kind][1];
	if (usual === 'L') return ['L', 'gal', 'mL'];
	if (usual === 'mL') return ['mL', 'L', 'g', 'kg', 'drops'];
	return usual === '' ? [] : [usual];
}

export const emptyEvent = (station: string, kind: EventKind = 'water_added'): EventValues => ({
	kind,
	station,
	amount: '',
	unit: EVENT_WORDS[kind][1],
	product: '',
	note: '',
	when: '',
});

/** An event as it stands, to be mended. */
export const valuesOf = (
	e: {
		kind: EventKind;
		station: string;
		amount: number | null;
		unit: string;
		product: string;
		note: string;
		time: string;
	},
	zone: string,
): EventValues => ({
	kind: e.kind,
	station: e.station,
	amount: e.amount === null ? '' : String(e.amount),
	unit: e.unit,
	product: e.product,
	note: e.note,
	when: typedWhen(Date.parse(e.time), zone),
});

/** What is sent; or what is wrong with which field. */
export function readEvent(
	v: EventValues,
	now: number,
	zone: string,
): { ok: true; body: EventBody } | { ok: false; field: 'amount' | 'when' | 'note'; message: string } {
	const units = unitsOf(v.kind);
	const amount = units.length === 0 || v.amount.trim() === '' ? null : decimal(v.amount.trim());
	if (amount === undefined || (amount !== null && !(amount >= 0)))
		return { ok: false, field: 'amount', message: 'The amount is a number, as 6.5; leave it empty if nobody knows.' };
	const when = parseWhen(v.when, now, zone);
	if (!when.ok) return { ok: false, field: 'when', message: whenProblem(when.problem) };
	if (v.kind === 'note' && v.note.trim() === '')
		return { ok: false, field: 'note', message: 'Write what was noticed.' };
	return {
		ok: true,
		body: {
			station: v.station,
			time: formatTime(when.value),
			kind: v.kind,
			amount,
			unit: amount === null ? '' : v.unit || (units[0] ?? ''),
			product: units.includes('mL') ? v.product.trim() : '',
			note: v.note.trim(),
		},
	};
}

/** What is asked about an event before it is kept; null where nothing is. */
export const doubtHere = (
	body: Pick<EventBody, 'kind' | 'amount' | 'unit' | 'station'>,
	site: SiteView,
): EventDoubt | null =>
	doubtOfEvent(
		body.kind,
		body.amount,
		body.unit,
		site.stations.find((s) => s.info.code === body.station)?.info.volumeL ?? null,
	);
