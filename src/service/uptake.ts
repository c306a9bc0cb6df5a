import type { z } from 'zod';
import type { uptakeAnswer } from '@/contract/uptake';
import type { SeriesQuantity } from '@/core/quantity';
import { litresAtLevel, tankShape } from '@/core/quantity/tank-shape';
import { type TankAct, tankStretches } from '@/core/rootzone/tank-looks';
import { nextTopUp, type Stretch, uptakeOf } from '@/core/rootzone/uptake';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { believedOf, CLOCKS_MS } from './believed';
import { inLitres } from './poured';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const DAY = 86_400_000;
const USUAL_DAYS = 28;
const USUAL_LEAST_PCT = 85;
const MOST_EVENTS = 2000;
/** What hand-held meters and kits measure of the solution itself. */
const IONS: readonly SeriesQuantity[] = ['no3', 'k', 'ca'];
/** An older EC is not what stands in the tank. */
const STALE_MS = 4 * DAY;

/** What the plants of a tank take, by what was read, added and poured there; with what is missing where it cannot be told. */
export async function uptakeAt(
	db: Db,
	context: SiteContext,
	code: string,
	now: number,
	asked: { days?: number | undefined; least_pct?: number | undefined },
): Promise<z.output<typeof uptakeAnswer>> {
	const station = context.stations.find((s) => s.code === code);
	if (!station) throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${code}”.` }]);
	const span = { from: now - (asked.days ?? USUAL_DAYS) * DAY, to: now + CLOCKS_MS };
	const shape = station.shape === '' ? null : tankShape(station.shape);
	const [ec = [], depths = [], ...ofIons] = await believedOf(
		db,
		context,
		(['ec', 'level', ...IONS] as const).map((quantity) => ({ station: code, quantity })),
		span,
	);
	const levels = shape?.ok
		? depths.flatMap((r) => {
				const litres = litresAtLevel(shape.value, r.value);
				return litres === null ? [] : [{ at: r.at, litres }];
			})
		: [];
	const acts = actsOf(await listEvents(db, context.site.id, { ...span, station: code, limit: MOST_EVENTS }));
	const fullL = context.known.stations.get(code)?.volumeL ?? null;
	const { stretches, known } = tankStretches(ec, levels, acts, fullL);
	const found = uptakeOf(stretches);
	const ions = [];
	for (const [i, quantity] of IONS.entries()) {
		const of = tankStretches(ofIons[i]!, levels, acts, fullL);
		const taken = uptakeOf(of.stretches);
		if (taken) ions.push({ quantity, taken });
	}
	const newest = ec.at(-1);
	const litres = newest && litresNow(newest.at, levels, acts, fullL, found?.perDayL.value ?? 0);
	const here =
		newest && litres && now - newest.at < STALE_MS ? { litres, ec_us_cm: newest.value, time: newest.at } : null;
	const range = station.ranges.ec;
	const targetUsCm = range ? (range[0] + range[1]) / 2 : null;
	const leastL = fullL === null ? null : (fullL * (asked.least_pct ?? USUAL_LEAST_PCT)) / 100;
	const next =
		found && here && fullL && leastL && targetUsCm
			? nextTopUp({ litres: here.litres, ecUsCm: here.ec_us_cm, fullL, leastL, targetUsCm }, found)
			: null;
	const plants = context.systems.find((y) => y.code === station.system)?.watering?.plants;
	const share = (b: { value: number; low: number; high: number }, n: number) => ({
		value: b.value / n,
		low: b.low / n,
		high: b.high / n,
	});
	return {
		station: code,
		missing: missingOf(fullL, ec.length, acts, known),
		known,
		fullL,
		now: here,
		targetUsCm,
		perPlantL: found && plants ? share(found.perDayL, plants) : null,
		ec: found,
		ions,
		stretches: stretches.map(shownStretch),
		next: next && { ...next, leastL: leastL! },
	};
}

function actsOf(events: Awaited<ReturnType<typeof listEvents>>): TankAct[] {
	return events.flatMap((e): TankAct[] => {
		if (e.kind === 'water_added') return [{ at: e.at, kind: 'filled', litres: inLitres(e.amount, e.unitText) }];
		if (e.kind === 'solution_changed') return [{ at: e.at, kind: 'changed', litres: null }];
		if (e.kind === 'nutrient_added' || e.kind === 'drained') return [{ at: e.at, kind: 'other', litres: null }];
		return [];
	});
}

/** What to do first so that something can be told. */
function missingOf(fullL: number | null, readings: number, acts: readonly TankAct[], known: string | null) {
	if (known !== null) return null;
	if (readings < 2) return 'ec' as const;
	if (fullL === null) return 'volume' as const;
	if (acts.length < 2) return 'additions' as const;
	// Where amounts are written down it is the second reading between two of them that is missing.
	return acts.some((a) => a.kind === 'filled' && a.litres !== null) ? ('ec' as const) : ('level' as const);
}

/** By the dipstick of that time; else full at the last filling, less what they drink. */
function litresNow(
	at: number,
	levels: readonly { at: number; litres: number }[],
	acts: readonly TankAct[],
	fullL: number | null,
	perDayL: number,
): number | null {
	const level = levels.findLast((l) => Math.abs(l.at - at) < DAY / 4);
	if (level) return level.litres;
	const filled = acts
		.filter((a) => a.at <= at)
		.sort((a, b) => a.at - b.at)
		.at(-1);
	if (fullL === null || !filled || filled.kind === 'other') return null;
	return Math.max(0.05 * fullL, fullL - (perDayL * (at - filled.at)) / DAY);
}

const shownStretch = ({ first, last }: Stretch) => ({
	from: first.at,
	to: last.at,
	drunk_l: first.litres - last.litres,
	ec_from: first.value,
	ec_to: last.value,
	taken: uptakeOf([{ first, last }])?.taken.value ?? 0,
});
