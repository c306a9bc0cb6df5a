// npm run evaluate:dosing [-- first last]: learned dosing in simulated tanks, beside the habit of a fixed increment.
import { jugDoses, ML_PER_DROP, readJug } from '@/core/mix/jug';
import { adviseDose, type PastDose } from '@/core/mix/response';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';

const [first = 4001, last = 4400] = process.argv.slice(2).map(Number);
const TARGET = 5.8;

interface Outcome {
	doses: number;
	within: boolean;
	over: number;
}

/** One batch: doses until on target or out of patience. */
function batch(
	tank: DosingTank,
	volumeL: number,
	past: PastDose[],
	label: number | undefined,
	next: 'learned' | 'fixed',
	alkalinityMeqL?: number,
): Outcome {
	let doses = 0;
	let lowest = tank.ph;
	let fixedMl = 0;
	for (; doses < 12; doses++) {
		const before = tank.measure();
		if (Math.abs(before - TARGET) <= 0.07) break;
		let ml: number;
		if (next === 'learned') {
			const advice = adviseDose({
				solution: { volumeL, alkalinityMeqL },
				ph: before,
				targetPh: TARGET,
				past,
				strengthMeqMl: label ?? null,
				kind: 'acid',
			});
			if (advice.do !== 'dose') break;
			ml = advice.ml;
		} else {
			// The habit: half a millilitre of product for each litre of a strong feed’s acid, again and again.
			fixedMl ||= (0.25 * volumeL) / (label ?? 1);
			if (before < TARGET) break;
			ml = fixedMl;
		}
		tank.pour(ml);
		const after = tank.measure();
		lowest = Math.min(lowest, tank.ph);
		past.push({ volumeL, ml, phBefore: before, phAfter: after });
	}
	return { doses, within: Math.abs(tank.ph - TARGET) <= 0.1, over: Math.max(TARGET - lowest, 0) };
}

/** A litre of the tank in a jug, two drops at a time until the target is passed; nobody knows how large a drop is. */
function jug(tank: DosingTank, dropMl: number): { strengthMeqMl: number; past: PastDose[] } | null {
	const steps = [{ ml: 0, ph: tank.measure() }];
	let drops = 0;
	while (steps.at(-1)!.ph > TARGET && drops < 600) {
		// Weak products go in by more drops at a time, as long as little happens.
		const last = steps.length > 1 ? steps.at(-2)!.ph - steps.at(-1)!.ph : 0;
		const more = steps.length > 1 && last < 0.1 ? Math.max(2, Math.round(drops * 0.6)) : 2;
		tank.pour(more * dropMl);
		drops += more;
		steps.push({ ml: drops * ML_PER_DROP, ph: tank.measure() });
	}
	const read = readJug(steps, 1);
	return read.ok ? { strengthMeqMl: read.strengthMeqMl, past: jugDoses(steps, 1) } : null;
}

const results = {
	jug: [] as Outcome[],
	practised: [] as Outcome[],
	fresh: [] as Outcome[],
	known: [] as Outcome[],
	fixed: [] as Outcome[],
};
for (let seed = first; seed <= last; seed++) {
	const chance = seeded(seed);
	const volumeL = chance.pick([12, 40, 120, 600, 2400]);
	const water = {
		volumeL,
		alkalinityMeqL: chance.between(0.3, 4),
		phosphateMmolL: chance.between(0.5, 2),
		ammoniumMmolL: chance.between(0, 1.5),
		tempC: chance.between(14, 26),
		productMeqMl: chance.between(0.3, 6),
	};
	const label = water.productMeqMl * chance.between(0.8, 1.25);
	const start = () => chance.between(6.6, 7.6);
	const tank = () => new DosingTank({ ...water, startPh: start() }, chance);
	results.fixed.push(batch(tank(), volumeL, [], label, 'fixed'));
	results.known.push(batch(tank(), volumeL, [], label, 'learned', water.alkalinityMeqL * chance.between(0.85, 1.15)));
	const tried = jug(new DosingTank({ ...water, volumeL: 1, startPh: start() }, chance), chance.between(0.04, 0.06));
	if (tried) results.jug.push(batch(tank(), volumeL, tried.past, tried.strengthMeqMl, 'learned'));
	const past: PastDose[] = [];
	results.fresh.push(batch(tank(), volumeL, past, label, 'learned'));
	for (let n = 1; n < 3; n++) batch(tank(), volumeL, past, label, 'learned');
	results.practised.push(batch(tank(), volumeL, past, label, 'learned'));
}

const share = (list: Outcome[], of: (o: Outcome) => boolean) =>
	`${((100 * list.filter(of).length) / list.length).toFixed(1)} %`;
const row = (name: string, list: Outcome[], most: number) =>
	`| ${name} | ${share(list, (o) => o.within && o.doses <= most)} in at most ${most} | ${(list.reduce((s, o) => s + o.doses, 0) / list.length).toFixed(1)} | ${Math.max(...list.map((o) => o.over)).toFixed(2)} | ${share(list, (o) => o.over > 0.15)} |`;
console.log(`seeds ${first} to ${last}, a tank each of 12 to 2,400 L, from pH 6.6–7.6 to ${TARGET}\n`);
console.log(
	'| | within ±0.1 of the target | doses, mean | furthest below | below by more than 0.15 |\n|---|---|---|---|---|',
);
console.log(row('learned, after three batches', results.practised, 3));
console.log(row('learned, no history, alkalinity of the water known', results.known, 5));
console.log(row('learned, no history, nothing known of the water', results.fresh, 5));
console.log(row('the same, given two more', results.fresh, 7));
console.log(row('a product of unknown strength, a litre tried in a jug first', results.jug, 5));
console.log(row('a fixed 0.25 meq/L at a time', results.fixed, 5));
