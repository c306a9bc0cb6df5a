import { type Medium, mediumOf } from '../../chem/solution';
import { type Component, drawFrom, momentsOf, type Nodes, quantiles } from './belief';
import { type Filling, fillingsOf } from './fillings';
import { type DoseSeen, type Followed, followFilling } from './follow';
import type { Misses } from './foretold';
import { learnJug } from './jug-steps';
import { mixMinutes, visitGapMs } from './mixing-wait';
import { pass } from './passage';
import { carriedOver, type Known, priorOf, SURPRISE, surpriseOf } from './prior';
import type { DoseProduct, DoseQuestion } from './record';

/** What an earlier filling took when it was first brought to its target. */
export interface EarlierFilling {
	filledAt: number | null;
	/** Acid positive, meq/L by the label. */
	meqL: number;
	phStart: number;
	phEnd: number;
	ecUsCm: number | null;
	otherWater: boolean;
	doses: DoseSeen[];
}

/** Everything that is believed of a tank now. */
export interface Believed {
	nodes: Nodes;
	followed: Followed;
	filling: Filling;
	earlier: EarlierFilling[];
	medium: Medium;
	known: Known;
	mixMinutes: number;
	litres: number;
}

/** Fillings that are gone through: older ones were another bottle, another season. */
const MOST_FILLINGS = 8;
const EC_UNKNOWN_US_CM = 1000;
const FEED_SHARE: readonly [number, number] = [0.3, 3];

/** Of the water of a filling and that of now: another, where both are known and differ. */
const otherWater = (f: Filling, now: Filling): boolean =>
	f.water !== null && now.water !== null && f.water.code !== now.water.code;

/** What is believed of a tank now, from everything written of it: possible tanks with their weights, filling after filling. */
export function believe(q: DoseQuestion, strengthMeqMl: number): Believed {
	const { tank, now, record } = q;
	const product: DoseProduct = { ...q.product, strengthMeqMl };
	const products = new Map([...(q.others ?? []), product].map((p) => [p.name.toLowerCase(), p]));
	const all = fillingsOf(record, tank, products, now);
	const filling = all.at(-1)!;
	const wait = (litres: number) => mixMinutes(tank.aeration, litres, tank.mixMinutes);
	const knownOf = (f: Filling): Known => ({
		alkalinityMeqL: f.water?.alkalinityMeqL ?? null,
		waterEcUsCm: f.water?.ecUsCm ?? null,
		ecUsCm: f.ecUsCm,
		aeration: tank.aeration,
		fresh: f.filledAt !== null,
	});
	const mediumFor = (f: Filling) => mediumOf(tank.tempC, f.ecUsCm ?? f.water?.ecUsCm ?? EC_UNKNOWN_US_CM);
	let misses: Misses = [];
	const go = (f: Filling, mixture: readonly Component[]): Followed => {
		const m = mediumFor(f);
		const followed = followFilling(drawFrom(mixture), f, wait(f.litres) * 60_000, m, misses);
		misses = followed.misses;
		const end = all[all.indexOf(f) + 1]?.filledAt ?? Number.POSITIVE_INFINITY;
		for (const j of record.jugs)
			if (j.at >= (f.filledAt ?? Number.NEGATIVE_INFINITY) && j.at < end && j.at <= now) {
				const strength = products.get(j.product.toLowerCase())?.strengthMeqMl;
				if (strength) learnJug(followed.nodes, j.steps, j.litres, strength, m);
			}
		return followed;
	};
	const mixtureFor = (f: Filling, from: Component | null, alike: boolean): Component[] => {
		const known = knownOf(f);
		const surprise = from && alike ? SURPRISE.beginsAlike : SURPRISE.usual;
		return [{ ...(from ?? priorOf(known)), share: 1 - surprise }, surpriseOf(known, surprise)];
	};
	let learned: { component: Component; ecUsCm: number | null } | null = null;
	const from = (f: Filling): Component | null => {
		if (!learned) return null;
		const share = f.ecUsCm !== null && learned.ecUsCm !== null ? f.ecUsCm / learned.ecUsCm : 1;
		return carriedOver(learned.component, Math.min(Math.max(share, FEED_SHARE[0]), FEED_SHARE[1]));
	};
	const earlier: EarlierFilling[] = [];
	for (const f of all.slice(0, -1).slice(-MOST_FILLINGS)) {
		const other = otherWater(f, filling);
		const followed = go(f, mixtureFor(f, other ? null : from(f), beginsAlike(f, earlier)));
		earlier.push(...firstBringing(f, followed.doses, other, visitGapMs(wait(f.litres))));
		if (!other && (followed.doses.length > 0 || f.readings.length > 1))
			learned = { component: { ...momentsOf(followed.nodes), share: 1 }, ecUsCm: f.ecUsCm };
	}
	const followed = go(filling, mixtureFor(filling, from(filling), beginsAlike(filling, earlier)));
	const litres = q.litres ?? filling.litres;
	return {
		nodes: followed.nodes,
		followed,
		filling,
		earlier,
		medium: mediumFor(filling),
		known: knownOf(filling),
		mixMinutes: wait(litres),
		litres,
	};
}

/** So much lower than any of the last fillings of this water, a filling has begun differently: softer water stands lower. */
const BELOW_PH = 0.15;
const ALIKE_EC_LN = 0.12;
const LAST = 3;

function beginsAlike(f: Filling, earlier: readonly EarlierFilling[]): boolean {
	const last = earlier.filter((e) => !e.otherWater).slice(-LAST);
	const first = f.readings[0];
	if (last.length === 0 || !first || f.ecUsCm === null) return false;
	const ec = last.at(-1)!.ecUsCm;
	return (
		first.value >= Math.min(...last.map((e) => e.phStart)) - BELOW_PH &&
		ec !== null &&
		Math.abs(Math.log(f.ecUsCm / ec)) <= ALIKE_EC_LN
	);
}

function firstBringing(f: Filling, doses: readonly DoseSeen[], other: boolean, gapMs: number): EarlierFilling[] {
	const first = doses[0];
	if (!first) return [];
	const end = doses.findIndex((d, i) => i > 0 && d.at - doses[i - 1]!.at > gapMs);
	const visit = end < 0 ? doses : doses.slice(0, end);
	return [
		{
			filledAt: f.filledAt,
			meqL: visit.reduce((sum, d) => sum + d.meqL, 0),
			phStart: first.phBefore,
			phEnd: visit.at(-1)!.phAfter,
			ecUsCm: f.ecUsCm,
			otherWater: other,
			doses: [...doses],
		},
	];
}

/** A pen is so far off that what lies beyond by this much is still explained. */
const GIVE = 0.1;

/**
 * Whether what is known of the tank leads to its newest reading: carbon dioxide that has left since the one before it lifts the
 * pH, however far it is from what the station’s readings alone lead to.
 */
export function explainsNewest(q: DoseQuestion, strengthMeqMl: number): boolean {
	const newest = q.record.ph.findLast((r) => r.at <= q.now);
	if (!newest) return false;
	const before = believe(
		{ ...q, record: { ...q.record, ph: q.record.ph.filter((r) => r.at < newest.at) } },
		strengthMeqMl,
	);
	const { last, weak } = before.followed;
	if (!last || before.filling.filledAt === null) return false;
	const since = before.filling.happenings.filter((h) => h.at >= last.at && h.at < newest.at);
	const p = pass(before.nodes, { at: last.at, ph: last.value }, newest.at, since, weak, before.medium);
	if (p.unknown) return false;
	const [low, high] = quantiles(p.ph, before.nodes.weight, [0.025, 0.975]) as [number, number];
	return newest.value >= low - GIVE && newest.value <= high + GIVE;
}
