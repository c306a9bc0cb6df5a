import type { KnownWater, Tank } from '@/contract/pages';
import { litresAtLevel, tankShape } from '@/core/quantity/tank-shape';
import { cutsOf } from '@/core/trend/trend';
import { permits } from '@/core/trust/trust';
import { readReport } from '@/core/water/ions';
import { type BatchRow, listBatches } from '@/store/batches';
import { lastDone } from '@/store/events';
import { measuredOf } from '@/store/measured';
import { listPlans } from '@/store/plans';
import { atOnce, type Db } from '@/store/pool';
import { latestReadings } from '@/store/readings';
import { listRecipes, type RecipeRow } from '@/store/recipes';
import { listReports } from '@/store/water';
import { type ProductView, productViews } from './products';
import type { SiteContext } from './site';

export interface MixView {
	tanks: Tank[];
	products: ProductView[];
	waters: KnownWater[];
	recipes: RecipeRow[];
	batches: BatchRow[];
}

/** Batches that are shown and learned from. */
const MOST_BATCHES = 60;

/** What can be mixed: tanks with their newest values, products, waters, recipes, and the batches before. */
export async function mixView(db: Db, context: SiteContext, now: number): Promise<MixView> {
	const site = context.site.id;
	const waters = context.inUse.stations.filter((s) => s.kind === 'source' || s.kind === 'blend');
	const tanks = context.inUse.stations.filter((s) => s.kind === 'mix' || s.kind === 'reservoir');
	const shaped = context.inUse.stations.flatMap((s) => {
		const shape = s.shape === '' ? null : tankShape(s.shape);
		return shape?.ok ? [{ code: s.code, shape: shape.value }] : [];
	});
	const [latest, reports, plans, recipes, [batches, products], lately, poured] = await atOnce(db, [
		() => latestReadings(db, site),
		() => listReports(db, site),
		() => listPlans(db, site),
		() => listRecipes(db, site),
		async () => {
			const batches = await listBatches(db, site, MOST_BATCHES);
			return [batches, await productViews(db, context, batches, now)] as const;
		},
		() =>
			measuredOf(
				db,
				site,
				[
					...waters.map((s) => ({ station: s.code, quantity: 'alkalinity' as const })),
					...shaped.map((s) => ({ station: s.code, quantity: 'level' as const })),
				],
				{ limit: 1 },
			),
		() =>
			lastDone(
				db,
				site,
				tanks.map((s) => s.code),
				cutsOf('ec'),
			),
	]);
	const newest = (station: string, ...quantities: string[]) => {
		const r = latest
			.filter((x) => x.station === station && quantities.includes(x.quantity))
			.sort((a, b) => b.at - a.at)[0];
		return r ? { value: r.restated ?? r.value, at: r.at, doubted: !permits(r, 'dose') } : null;
	};
	const reported = (station: string): number | null => {
		const report = reports.find((r) => r.station === station);
		const alkalinity = report ? (readReport(report.ions, report.ecUsCm)?.alkalinityMgLCaco3 ?? 0) : 0;
		return alkalinity > 0 ? alkalinity : null;
	};
	const alkalinity = new Map<string, number>();
	for (const [i, s] of waters.entries()) {
		const r = lately[i]?.[0];
		if (r) alkalinity.set(s.code, r.restated ?? r.value);
	}
	const levels = new Map<string, { litres: number; at: number }>();
	for (const [i, { code, shape }] of shaped.entries()) {
		const r = lately[waters.length + i]?.[0];
		const litres = r && permits(r, 'dose') ? litresAtLevel(shape, r.restated ?? r.value) : null;
		if (r && litres !== null) levels.set(code, { litres, at: r.at });
	}
	return {
		tanks: tanks.map((s) => {
			const ph = newest(s.code, 'ph');
			const ec = newest(s.code, 'ec', 'tds');
			return {
				code: s.code,
				name: s.name,
				volumeL: context.known.stations.get(s.code)?.volumeL ?? null,
				litresNow: levels.get(s.code) ?? null,
				phRange: s.ranges.ph ?? null,
				ecRange: s.ranges.ec ?? null,
				stage: plans.find((p) => p.system === s.system)?.stages.findLast((x) => x.begun !== null)?.name ?? null,
				ph: ph?.value ?? null,
				ecUsCm: ec?.value ?? null,
				ecAt: ec?.at ?? null,
				ecDoubted: ec?.doubted ?? false,
				ecOvertaken: ec !== null && (poured.get(s.code) ?? 0) > ec.at,
				phAt: ph?.at ?? null,
			};
		}),
		products,
		waters: waters.flatMap((s) => {
			const ec = newest(s.code, 'ec', 'tds');
			return ec
				? [
						{
							code: s.code,
							name: s.name,
							ecUsCm: ec.value,
							ph: newest(s.code, 'ph')?.value ?? null,
							alkalinityMgLCaco3: alkalinity.get(s.code) ?? reported(s.code),
							ions: reports.find((r) => r.station === s.code)?.ions ?? null,
						},
					]
				: [];
		}),
		recipes,
		batches,
	};
}
