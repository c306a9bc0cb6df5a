import { adviseDose } from '@/core/mix/dose/advise';
import type { TankRecord } from '@/core/mix/dose/record';
import { ML_PER_DROP, readJug } from '@/core/mix/jug';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';

const TARGET = 5.8;
const MINUTE = 60_000;
const WAIT_MIN = 15;
const EC_US_CM = 1700;
/** A person leaves it so near. */
const NEAR_ENOUGH = 0.07;

interface Outcome {
	doses: number;
	within: boolean;
	over: number;
}

type Writable = { [K in keyof TankRecord]: TankRecord[K] extends readonly (infer T)[] ? T[] : never };
const blank = (): Writable => ({ ph: [], ec: [], events: [], alkalinity: [], jugs: [] });

/** One batch: filled, then doses until on target or out of patience. What it did is written into the record. */
function batch(
	tank: DosingTank,
	volumeL: number,
	record: Writable,
	label: number,
	next: 'learned' | 'fixed',
	alkalinityMeqL: number | null = null,
	jug?: { steps: { ml: number; ph: number }[] },
): Outcome {
	let now = (record.events.at(-1)?.at ?? Date.UTC(2026, 0, 1)) + 7 * 86_400_000;
	record.events.push({
		at: now,
		kind: 'filled',
		litres: volumeL,
		water: { code: 'well', ecUsCm: null, alkalinityMeqL },
	});
	now += WAIT_MIN * MINUTE;
	record.ec.push({ at: now, usCm: EC_US_CM });
	if (jug) record.jugs.push({ at: now, litres: 1, product: 'acid', steps: jug.steps });
	const read = (): number => {
		const value = tank.measure();
		record.ph.push({ at: now, value, u: 0.03, by: 'pen' });
		return value;
	};
	let doses = 0;
	let lowest = tank.ph;
	let before = read();
	for (; doses < 12; doses++) {
		if (Math.abs(before - TARGET) <= NEAR_ENOUGH) break;
		let ml: number;
		if (next === 'learned') {
			const { advice } = adviseDose({
				record,
				tank: {
					holdsL: volumeL,
					aeration: 'still',
					mixMinutes: WAIT_MIN,
					tempC: 20,
					range: null,
					leastPh: null,
					mostPh: null,
				},
				product: { name: 'acid', kind: 'acid', chemical: 'nitric', strengthMeqMl: label },
				targetPh: TARGET,
				litres: null,
				ph: null,
				now,
				doubt: null,
			});
			if (advice.do !== 'dose') break;
			ml = advice.ml;
		} else {
			// The habit: a quarter of an equivalent for each litre, again and again.
			if (before < TARGET) break;
			ml = (0.25 * volumeL) / label;
		}
		tank.pour(ml);
		record.events.push({ at: now + MINUTE, kind: 'dosed', ml, product: 'acid', sign: -1 });
		now += (WAIT_MIN + 2) * MINUTE;
		before = read();
		lowest = Math.min(lowest, tank.ph);
	}
	return { doses, within: Math.abs(tank.ph - TARGET) <= 0.1, over: Math.max(TARGET - lowest, 0) };
}

/** A litre of the tank in a jug, two drops at a time until the target is passed; nobody knows how large a drop is. */
function jug(tank: DosingTank, dropMl: number): { strengthMeqMl: number; steps: { ml: number; ph: number }[] } | null {
	const steps = [{ ml: 0, ph: tank.measure() }];
	let drops = 0;
	while (steps.at(-1)!.ph > TARGET && drops < 600) {
		// Weak products go in by more drops at a time, as long as little happens.
		const moved = steps.length > 1 ? steps.at(-2)!.ph - steps.at(-1)!.ph : 0;
		const more = steps.length > 1 && moved < 0.1 ? Math.max(2, Math.round(drops * 0.6)) : 2;
		tank.pour(more * dropMl);
		drops += more;
		steps.push({ ml: drops * ML_PER_DROP, ph: tank.measure() });
	}
	const read = readJug(steps, 1);
	return read.ok ? { strengthMeqMl: read.value.strengthMeqMl, steps } : null;
}

/** Learned dosing in still, closed tanks, beside the habit of a fixed increment: a table. */
export function stillTable(first: number, last: number): string {
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
		results.fixed.push(batch(tank(), volumeL, blank(), label, 'fixed'));
		results.known.push(
			batch(tank(), volumeL, blank(), label, 'learned', water.alkalinityMeqL * chance.between(0.85, 1.15)),
		);
		// The jug is of the same filling: it starts where the tank stands.
		const startPh = start();
		const tried = jug(new DosingTank({ ...water, volumeL: 1, startPh }, chance), chance.between(0.04, 0.06));
		if (tried)
			results.jug.push(
				batch(
					new DosingTank({ ...water, startPh }, chance),
					volumeL,
					blank(),
					tried.strengthMeqMl,
					'learned',
					null,
					tried,
				),
			);
		const record = blank();
		results.fresh.push(batch(tank(), volumeL, record, label, 'learned'));
		for (let n = 1; n < 3; n++) batch(tank(), volumeL, record, label, 'learned');
		results.practised.push(batch(tank(), volumeL, record, label, 'learned'));
	}

	const share = (list: Outcome[], of: (o: Outcome) => boolean) =>
		`${((100 * list.filter(of).length) / list.length).toFixed(1)} %`;
	const row = (name: string, list: Outcome[], most: number) =>
		`| ${name} | ${share(list, (o) => o.within && o.doses <= most)} in at most ${most} | ${(list.reduce((s, o) => s + o.doses, 0) / list.length).toFixed(1)} | ${Math.max(...list.map((o) => o.over)).toFixed(2)} | ${share(list, (o) => o.over > 0.15)} |`;
	return [
		'| | within ±0.1 of the target | doses, mean | furthest below | below by more than 0.15 |\n|---|---|---|---|---|',
		row('learned, after three batches', results.practised, 3),
		row('the same, given one more', results.practised, 4),
		row('learned, no history, alkalinity of the water known', results.known, 5),
		row('the same, given two more', results.known, 7),
		row('learned, no history, nothing known of the water', results.fresh, 5),
		row('the same, given two more', results.fresh, 7),
		row('a product of unknown strength, a litre tried in a jug first', results.jug, 5),
		row('a fixed 0.25 meq/L at a time', results.fixed, 5),
	].join('\n');
}
