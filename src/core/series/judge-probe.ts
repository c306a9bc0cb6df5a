import { countRest, restLimit } from '../judge/rests';
import type { SeriesQuantity } from '../quantity';
import { numberOf } from './findings';
import { type Judged, judgeStream, type Samples, type Surroundings } from './stream-checks';
import { newStream, type ProbeMemory, type StreamMemory } from './stream-memory';

/** What one probe told of one quantity. */
export interface ProbeSeries extends Samples {
	quantity: SeriesQuantity;
}
const STUCK = numberOf('stuck');
/** What all values of a node rest against is known by so many whiles. */
const SMOOTHING = 0.1;

/**
 * Judges what a probe told of all its quantities: conductivity first, since it tells of the pH whether the probe is in the water; and
 * last whether all of it stands still together, as a hung node does. Samples are newer than the memory, each series ascending.
 * @param around of each quantity
 * @returns by quantity, in the order given
 */
export function judgeProbe(
	memory: ProbeMemory,
	all: readonly ProbeSeries[],
	around: (quantity: SeriesQuantity) => Omit<Surroundings, 'quantity' | 'beside'>,
): Judged[] {
	const judged = new Map<ProbeSeries, Judged>();
	const ec = all.find((s) => s.quantity === 'ec');
	const inOrder = ec ? [ec, ...all.filter((s) => s !== ec)] : all;
	for (const s of inOrder) {
		const own = memory.series[s.quantity] ?? newStream(s.count > 0 ? s.at[0]! : 0);
		memory.series[s.quantity] = own;
		const beside = ec
			? s === ec
				? undefined
				: { at: ec.at, cause: judged.get(ec)!.cause, count: ec.count }
			: newest(memory.series.ec);
		judged.set(s, judgeStream(own, s, { quantity: s.quantity, beside, ...around(s.quantity) }));
	}
	if (all.length > 1) hangs(memory, all, judged);
	return all.map((s) => judged.get(s)!);
}

/** What the conductivity was found to be last, where it is told apart from the rest. */
const newest = (ec: StreamMemory | undefined): Surroundings['beside'] =>
	ec?.at == null ? undefined : { at: [ec.at], cause: [ec.cause], count: 1 };

/** Marks where nothing that a probe tells has changed for longer than it ever did. */
function hangs(memory: ProbeMemory, all: readonly ProbeSeries[], judged: ReadonlyMap<ProbeSeries, Judged>): void {
	const first = all[0]!;
	const place = all.map(() => 0);
	const before = all.map(() => Number.NaN);
	for (let i = 0; i < first.count; i++) {
		const t = first.at[i]!;
		let still = true;
		let complete = true;
		for (const [k, s] of all.entries()) {
			while (place[k]! < s.count && s.at[place[k]!]! < t) place[k]!++;
			if (place[k]! >= s.count || s.at[place[k]!] !== t) {
				complete = false;
				break;
			}
			const v = s.value[place[k]!]!;
			if (v !== before[k]) still = false;
			before[k] = v;
		}
		if (!complete) continue;
		const { together: r, at: last } = memory;
		memory.at = t;
		if (last === null) continue;
		const usual = memory.usualMs === 0 ? t - last : memory.usualMs;
		memory.usualMs = usual + SMOOTHING * (Math.min(t - last, 3 * usual) - usual);
		const limit = restLimit(r, 'together', usual, t);
		const since = r.since ?? t;
		countRest(r, last, t, still, limit);
		if (!still || t - since < limit) continue;
		const fresh = last - since < limit;
		for (const [k, s] of all.entries()) {
			const { cause, earlier } = judged.get(s)!;
			const from = fresh ? since : t;
			for (let j = place[k]!; j >= 0 && s.at[j]! >= from; j--) if (cause[j] === 0) cause[j] = STUCK;
			if (fresh && from < s.at[0]!) earlier.push({ from, to: s.at[0]!, cause: STUCK, over: 0 });
		}
	}
}
