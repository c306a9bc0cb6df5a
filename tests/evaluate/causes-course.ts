import type { Book } from '@/core/explain/book';
import { type Explained, explain } from '@/core/explain/explain';
import { seeded } from '@/sim/random';
import { bagWorld, TRUE_CAUSES, type TrueCause, tankWorld } from './worlds/causes';
import { drawTank, weeksOf } from './worlds/drifting';

/** What was said of worlds with one cause, counted. */
export interface Count {
	n: number;
	/** The true cause stands first, or among the first two, whether it was called clear or not. */
	first: number;
	two: number;
	/** Said to be clear, and wrong. */
	wrong: number;
	cannotTell: number;
	/** Nothing to explain was seen, or too little was read. */
	silent: number;
}
/** From so much on a cause moved something that anybody sees: pH, or share of EC. */
const SEEN = { ph: 0.3, ec: 0.1 } as const;
const DAY = 86_400_000;

const nothing = (): Count => ({ n: 0, first: 0, two: 0, wrong: 0, cannotTell: 0, silent: 0 });

/** Counts by group: `full` is what can be seen and was written down well enough, apart from it `faint`, `thin` and `nothing`. */
export class Tally {
	readonly counts = new Map<string, Count>();
	take(group: string, cause: TrueCause, { says, causes }: Explained): void {
		const c = this.counts.get(group) ?? nothing();
		this.counts.set(group, c);
		c.n++;
		if (causes[0]?.cause === cause) c.first++;
		else if (says === 'explained') c.wrong++;
		if (causes.slice(0, 2).some((x) => x.cause === cause)) c.two++;
		if (says === 'cannot-tell') c.cannotTell++;
		if (says === 'steady' || says === 'unknown') c.silent++;
	}
}

/** Tanks and bags in which one thing moves pH or EC, one of each seed. */
export function causesCourse(first: number, last: number): Tally {
	const tally = new Tally();
	for (let seed = first; seed <= last; seed++) {
		const c = seeded(seed);
		const cause = c.pick(TRUE_CAUSES);
		const bag = (cause === 'salts' || cause === 'diluted' || cause === 'feed_wrong') && c.chance(0.5);
		const w = bag ? bagWorld(cause, c) : tankWorld(cause, c);
		const seen = Math.abs(w.moved) >= SEEN[w.book.quantity];
		const group = cause === 'nothing' ? 'nothing' : w.thin ? 'thin' : seen ? 'full' : 'faint';
		const said = explain(w.book);
		tally.take(group, cause, said);
		if (group === 'full') tally.take(`full ${w.book.kind} ${cause}`, cause, said);
	}
	return tally;
}

/** Drifting tanks: older than the explanations; their pH moves by what plants take, their EC by how strong that is. */
export function driftingCourse(first: number, last: number): Tally {
	const tally = new Tally();
	for (let seed = first; seed <= last; seed++) {
		const c = seeded(seed);
		const tank = drawTank(c);
		const takes = tank.traits.takes / tank.ec;
		const up = tank.traits.phPerDay > 0;
		const kept = weeksOf(tank, 28, c);
		const book = (quantity: 'ph' | 'ec'): Book => ({
			quantity,
			kind: 'tank',
			readings: kept[quantity].map(({ at, value }) => ({ at, value, off: 0 })),
			other: quantity === 'ph' ? kept.ec : kept.ph,
			temps: [],
			oxygen: [],
			acts: kept.filled.map((at) => ({ at, kind: 'changed', litres: null })),
			shares: [],
			feed: [],
			pairs: [],
			calibrated: kept.filled.map((at) => at + DAY / 24),
			volumeL: tank.fullL,
			aeration: null,
			water: { alkalinityMeqL: 0.2, ecUsCm: 100 },
			ammoniumShare: up ? 0.05 : 0.15,
			compensates: true,
		});
		tally.take('pH', up ? 'nitrate' : 'ammonium', explain(book('ph')));
		// Nearly as strong as what it stands in, nothing much moves.
		const group = Math.abs(takes - 1) > 0.25 ? 'EC' : 'EC, faint';
		tally.take(group, takes > 1 ? 'hungry' : 'salts', explain(book('ec')));
	}
	return tally;
}
