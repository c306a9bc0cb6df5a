import type { EventKind } from '@/core/reading/model';
import { DosingTank } from '@/sim/dosing-world';
import { type Random, seeded } from '@/sim/random';
import type { BatchPlan, BatchStep } from '@/store/batches';
import type { RecipePart, RecipeRow } from '@/store/recipes';

/** The weekly batch of the mix tank, as the grower makes it: borehole water, feed to 1.90, then acid in two or three steps. */
export interface DemoBatch {
	startedAt: number;
	finishedAt: number;
	plan: BatchPlan;
	log: BatchStep[];
	events: { at: number; kind: EventKind; amount: number; unit: string; product: string; note: string }[];
	readings: { at: number; quantity: 'ph' | 'ec'; digits: string; unit: string; note: string }[];
}

const part = (product: string, more: Partial<RecipePart> = {}): RecipePart => ({
	product,
	perL: null,
	scales: true,
	waitMin: 5,
	stockTank: '',
	...more,
});
const plain = { stages: {}, injector: null } as const;
export const RECIPES: Omit<RecipeRow, 'id' | 'changedAt'>[] = [
	{
		name: 'leaf feed',
		...plain,
		parts: [part('feed A and B')],
		water: 'borehole',
		targetEcUsCm: 1900,
		strength: null,
		targetPh: 5.8,
		phFirst: false,
		note: 'for the pond and the slabs',
	},
	{
		name: 'strawberry feed',
		...plain,
		parts: [part('feed A and B')],
		water: 'rain',
		targetEcUsCm: 1400,
		strength: null,
		targetPh: 5.8,
		phFirst: false,
		note: '',
	},
	{
		name: 'cuttings',
		...plain,
		parts: [part('feed A and B')],
		water: 'rain',
		targetEcUsCm: null,
		strength: 0.25,
		targetPh: 6,
		phFirst: false,
		note: '',
	},
	{
		name: 'fruiting, through the injector',
		parts: [
			part('silicate', { scales: false, waitMin: 10, stockTank: 'C' }),
			part('calcium nitrate', { stockTank: 'A' }),
			part('fruit salts', { stockTank: 'B' }),
		],
		stages: { seedling: 800, growing: 1200 },
		injector: 100,
		water: 'rain',
		targetEcUsCm: 1500,
		strength: null,
		targetPh: 5.8,
		phFirst: false,
		note: 'for the gutters',
	},
];

const MINUTE = 60_000;
const LITRES = 1000;
const TARGET_EC = 1900;
const TARGET_PH = 5.8;
/** What the feed truly brings, µS/cm for each mL/L of each part. */
const GAIN = 418;
/** Of the borehole, before and after salt came in. */
const ALKALINITY_MEQ_L = 4.2;
/** What the acid truly holds: a little less than its label says. */
const ACID_MEQ_ML = 4.2;

/**
 * @param start when the tank was filled
 * @param waterEcUsCm of the borehole that day
 * @param tooStrong the dipstick was read wrong: EC comes out too high and is diluted
 */
export function demoBatch(
	start: number,
	waterEcUsCm: number,
	mixEcUsCm: number,
	seed: number,
	tooStrong: boolean,
): DemoBatch {
	const chance: Random = seeded(seed);
	const perL = (TARGET_EC - waterEcUsCm) / GAIN;
	const each = Math.round(perL * LITRES);
	const batch: DemoBatch = {
		startedAt: start,
		finishedAt: start,
		plan: {
			litres: LITRES,
			water: 'borehole',
			waterEcUsCm: Math.round(waterEcUsCm / 10) * 10,
			pours: ['A', 'B'].map((bottle) => ({
				product: 'feed A and B',
				bottle,
				perL: each / LITRES,
				unit: 'mL' as const,
				waitMin: 5,
				scales: true,
			})),
			targetEcUsCm: TARGET_EC,
			expectedEcUsCm: TARGET_EC,
			targetPh: TARGET_PH,
			recipe: 'leaf feed',
			strength: null,
			phFirst: false,
		},
		log: [],
		events: [],
		readings: [],
	};
	let at = start;
	const step = (s: Pick<BatchStep, 'step' | 'expected' | 'measured' | 'words'> & Partial<BatchStep>) =>
		batch.log.push({ at, amount: null, flag: null, doubt: null, readingId: null, ...s });
	const event = (kind: EventKind, amount: number, unit: string, product: string, note = '') =>
		batch.events.push({ at, kind, amount, unit, product, note });
	const ec = (value: number) => {
		const digits = (Math.round(value / 10) / 100).toFixed(2);
		batch.readings.push({ at, quantity: 'ec', digits, unit: 'mS/cm', note: 'batch' });
		step({ step: 'ec', expected: TARGET_EC, measured: Number(digits) * 1000, words: `EC ${digits}`, flag: 1 });
	};
	const ph = (value: number, expected: number | null, note: string) => {
		batch.readings.push({ at, quantity: 'ph', digits: value.toFixed(2), unit: 'pH', note });
		step({ step: 'ph', expected, measured: value, words: `pH ${value.toFixed(2)}`, flag: 1 });
	};
	event('solution_changed', LITRES, 'L', 'Borehole', 'new batch');
	for (const letter of ['A', 'B']) {
		at += 6 * MINUTE;
		event('nutrient_added', each, 'mL', 'feed A and B', `part ${letter}`);
		step({ step: 'part', expected: null, measured: null, words: `${each} mL of part ${letter}`, amount: each });
	}
	at += 20 * MINUTE;
	if (tooStrong) {
		ec(1.085 * TARGET_EC);
		at += 5 * MINUTE;
		const litres = Math.round((LITRES * 0.085 * TARGET_EC) / (1.085 * TARGET_EC - waterEcUsCm));
		event('drained', litres, 'L', '');
		event('water_added', litres, 'L', 'Borehole');
		step({
			step: 'diluted',
			expected: TARGET_EC,
			measured: null,
			words: `${litres} L drained, ${litres} L of Borehole added`,
			amount: litres,
		});
		at += 15 * MINUTE;
	}
	ec(mixEcUsCm);
	const tank = new DosingTank(
		{
			volumeL: LITRES,
			alkalinityMeqL: ALKALINITY_MEQ_L,
			phosphateMmolL: 1.2,
			ammoniumMmolL: 0.6,
			tempC: 15,
			productMeqMl: ACID_MEQ_ML,
			startPh: 6.9 + 0.04 * chance.normal(),
		},
		chance,
	);
	at += 2 * MINUTE;
	let now = tank.measure();
	ph(now, null, 'batch');
	// Half of the way, then most of the rest, then a little.
	for (const share of [0.5, 0.8, 0.9]) {
		if (now - TARGET_PH < 0.06) break;
		at += 4 * MINUTE;
		const ml = Math.round((share * tank.meqTo(TARGET_PH) * LITRES) / ACID_MEQ_ML);
		tank.pour(ml);
		event('acid_added', ml, 'mL', 'pH down');
		step({ step: 'dosed', expected: null, measured: null, words: `${ml} mL pH down`, amount: ml });
		at += 12 * MINUTE;
		now = tank.measure();
		ph(now, null, `after ${ml} mL pH down`);
	}
	at += MINUTE;
	step({ step: 'done', expected: null, measured: null, words: 'done' });
	batch.finishedAt = at;
	return batch;
}
