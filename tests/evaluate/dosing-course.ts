import { adviseDose } from '@/core/mix/dose/advise';
import type { Guard } from '@/core/mix/dose/guards/guard';
import type { DoseQuestion, TankEvent, WaterThen } from '@/core/mix/dose/record';
import { HOUR, SimulatedGrower } from '@/sim/dosing/grower';
import type { World } from '@/sim/dosing/worlds';
import type { Random } from '@/sim/random';

/** One bringing to target, as it truly went. */
export interface Visit {
	filling: number;
	history: boolean;
	/** Way from the target when it was asked. */
	way: number;
	doses: number;
	/** Within ±0.1 of the target at the end, and after how many doses first. */
	reachedIn: number | null;
	/** Furthest beyond the target when it was read, and at any time: acid dips until its carbon dioxide has left. */
	beyond: number;
	dipped: number;
	/** Furthest pH at any time, of the stirred tank. */
	extreme: number;
	/** Of the stated intervals, those that held the next reading. */
	intervals: { stated: number; held: number };
	/** Refused or told to wait though the way was long, the reading fresh and mixed. */
	refused: string | null;
	said: string[];
}

const PRODUCT = 'product';
const AT_MOST = 12;
const WITHIN = 0.1;
const AGAIN = new Set(['added-since', 'stale', 'moved-untold']);

export function questionOf(g: SimulatedGrower): DoseQuestion {
	const { told } = g.world;
	const water = (w: string, ecUsCm: number): WaterThen => ({
		code: w,
		ecUsCm,
		alkalinityMeqL: w === 'usual' ? told.alkalinityMeqL : null,
	});
	const events = g.notes.events
		.filter((e) => e.at <= g.now)
		.map((e): TankEvent => {
			if (e.kind === 'filled')
				return { at: e.at, kind: 'filled', litres: e.litres, water: water(e.water, e.waterEcUsCm) };
			if (e.kind === 'water')
				return { at: e.at, kind: 'water', litres: e.litres, water: water(e.water, e.waterEcUsCm) };
			if (e.kind === 'fed') return { at: e.at, kind: 'fed' };
			return {
				at: e.at,
				kind: 'dosed',
				ml: e.ml,
				product: PRODUCT,
				sign: told.product.startsWith('potassium') ? 1 : -1,
			};
		})
		.sort((a, b) => a.at - b.at);
	const spread = g.world.hand.penNoise * 2 + 0.03;
	return {
		record: {
			ph: g.notes.ph.map((r) => ({ ...r, u: spread, noise: 10 ** -g.world.hand.decimals / Math.sqrt(12) + 0.015 })),
			ec: g.notes.ec,
			events,
			alkalinity: [],
			jugs: [],
		},
		tank: {
			holdsL: told.litres,
			aeration: told.moved,
			mixMinutes: null,
			tempC: 20,
			range: told.range,
			leastPh: null,
			mostPh: null,
		},
		product: {
			name: PRODUCT,
			kind: told.product.startsWith('potassium') ? 'base' : 'acid',
			chemical: told.product,
			strengthMeqMl: told.labelMeqMl,
		},
		targetPh: told.targetPh,
		litres: null,
		ph: null,
		now: g.now,
		doubt: null,
	};
}

/** Doses until it is there, as a person would who does what is advised. */
function bring(
	g: SimulatedGrower,
	filling: number,
	history: boolean,
	guards: readonly Guard[] | undefined,
): Visit | null {
	const { told, hand } = g.world;
	const direction = told.product.startsWith('potassium') ? 1 : -1;
	const visit: Visit = {
		filling,
		history,
		way: (told.targetPh - g.tank.ph) * direction,
		doses: 0,
		reachedIn: null,
		beyond: 0,
		dipped: 0,
		extreme: g.tank.ph,
		intervals: { stated: 0, held: 0 },
		refused: null,
		said: [],
	};
	g.readEc();
	let seen = g.readPh();
	if ((told.targetPh - seen) * direction < 0.15) return null;
	g.lowest = g.highest = g.tank.ph;
	let waited = 0;
	for (let n = 0; n < 2 * AT_MOST && visit.doses < AT_MOST; n++) {
		const { advice } = adviseDose(questionOf(g), guards ? { guards } : {});
		if (advice.do === 'wait') {
			if (waited++ > 3) break;
			g.pass(Math.max(advice.minutes, 1));
			seen = g.readPh();
			continue;
		}
		// What says “read again” is answered by reading again.
		if (advice.do === 'refuse' && AGAIN.has(advice.said.code) && waited++ < 3) {
			g.pass(10);
			seen = g.readPh();
			continue;
		}
		waited = 0;
		if (advice.do !== 'dose') {
			if (advice.do !== 'nothing' && (told.targetPh - seen) * direction > WITHIN) {
				visit.refused = advice.said.code;
				visit.said.push(advice.said.code);
			}
			break;
		}
		visit.said.push(`${advice.said[0]!.code}:${advice.meqL.toFixed(3)}`);
		g.pour(advice.ml);
		visit.doses++;
		g.pass(hand.readsAfterMin ?? advice.waitMinutes + 1);
		seen = g.readPh();
		visit.beyond = Math.max(visit.beyond, (g.tank.ph - told.targetPh) * direction);
		const tolerance = 0.005;
		if (hand.readsAfterMin === null) {
			visit.intervals.stated++;
			if (seen >= advice.low - tolerance && seen <= advice.high + tolerance) visit.intervals.held++;
		}
		if (visit.reachedIn === null && Math.abs(g.tank.ph - told.targetPh) <= WITHIN) visit.reachedIn = visit.doses;
	}
	// What is not mixed yet comes to rest.
	g.pass(20);
	visit.dipped = direction < 0 ? told.targetPh - g.lowest : g.highest - told.targetPh;
	visit.extreme = direction < 0 ? g.lowest : g.highest;
	return visit;
}

const FILLINGS = 5;

/** A tank through some fillings of some days, brought to target whenever it is off. */
export function courseOf(world: World, chance: Random, fillings = FILLINGS, guards?: readonly Guard[]): Visit[] {
	const g = new SimulatedGrower(world, chance, Date.UTC(2026, 3, 1, 8));
	const visits: Visit[] = [];
	let brought = 0;
	for (let f = 0; f < fillings; f++) {
		g.fill();
		for (let v = 0; v < world.days * world.visitsADay; v++) {
			if (v > 0) g.pass((24 / world.visitsADay) * 60 - 60);
			if (v > 0 && v % 2 === 0) g.topUp();
			const visit = bring(g, f, brought >= 2, guards);
			if (!visit) continue;
			visits.push(visit);
			brought++;
		}
		g.pass((12 * HOUR) / 60_000);
	}
	return visits;
}
