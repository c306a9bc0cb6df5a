import type { ProductRow } from '@/store/mix';

/** Days are counted back from the end of the demo. */
type DemoProduct = Omit<ProductRow, 'id' | 'stockAt' | 'opened'> & {
	countedDaysAgo: number | null;
	openedDaysAgo: number | null;
};
const product = (p: Partial<DemoProduct> & Pick<DemoProduct, 'name' | 'kind'>): DemoProduct => ({
	chemical: '',
	percentWw: null,
	densityGMl: null,
	jugMeqMl: null,
	parts: 1,
	rateMlL: null,
	gainUsCm: null,
	unit: 'mL',
	rateText: '',
	stockMl: null,
	countedDaysAgo: null,
	openedDaysAgo: null,
	keepsDays: null,
	expires: null,
	note: '',
	analysis: '',
	retired: false,
	...p,
});
export const PRODUCTS = [
	product({
		name: 'feed A and B',
		kind: 'nutrient',
		parts: 2,
		rateMlL: 4,
		rateText: '4 mL/L',
		gainUsCm: 400,
		densityGMl: 1.12,
		analysis:
			'A: nitrate nitrogen 2.7 %, ammonium nitrogen 0.15 %, CaO 4.4 %, Fe 0.02 %\nB: nitrate nitrogen 0.7 %, P2O5 1.8 %, K2O 4.9 %, MgO 0.8 %, SO3 1.8 %, Mn 0.01 %, B 0.004 %',
		stockMl: 20_000,
		countedDaysAgo: 24,
		openedDaysAgo: 24,
		keepsDays: 365,
	}),
	product({
		name: 'silicate',
		kind: 'nutrient',
		rateMlL: 0.2,
		rateText: '0.2 mL/L',
		densityGMl: 1.25,
		analysis: 'K2O 8 %, SiO2 17 %',
		note: 'into plain water, first',
	}),
	product({
		name: 'fruit salts',
		kind: 'nutrient',
		unit: 'g',
		rateMlL: 0.7,
		rateText: '0.7 g/L',
		stockMl: 8000,
		countedDaysAgo: 40,
		analysis:
			'Nitrate nitrogen 4.5 %, P2O5 11 %, K2O 36 %, MgO 4 %, SO3 19 %, Fe 0.2 %, Mn 0.06 %, Zn 0.03 %, B 0.03 %, Cu 0.005 %, Mo 0.005 %',
	}),
	product({
		name: 'calcium nitrate',
		kind: 'nutrient',
		chemical: 'calcium ammonium nitrate',
		unit: 'g',
		rateMlL: 0.5,
		rateText: '0.5 g/L',
		stockMl: 5000,
		countedDaysAgo: 40,
	}),
	product({
		name: 'pH down',
		kind: 'acid',
		chemical: 'nitric',
		percentWw: 24,
		densityGMl: 1.14,
		stockMl: 10_000,
		countedDaysAgo: 52,
		openedDaysAgo: 52,
	}),
	product({
		name: 'bicarbonate',
		kind: 'base',
		chemical: 'potassium bicarbonate',
		note: 'a saturated solution, tried in a jug',
	}),
];

/** What the laboratory said of the borehole and the rain, in mg/L. */
export const REPORTS = [
	// What is drunk leaves its salt behind: the loop of the slabs, each month.
	...(
		[
			[78, 62, 96],
			[48, 84, 127],
			[18, 103, 155],
		] as const
	).map(([daysAgo, na, cl]) => ({
		station: 'slabs',
		daysAgo,
		ions: {
			ca_mg_l: 150,
			mg_mg_l: 34,
			na_mg_l: na,
			k_mg_l: 190,
			hco3_mg_l: 30,
			cl_mg_l: cl,
			so4_mg_l: 110,
			no3_n_mg_l: 140,
		},
		ecUsCm: 2150,
		ph: 6,
	})),
	{
		station: 'borehole',
		daysAgo: 230,
		ions: {
			ca_mg_l: 100,
			mg_mg_l: 12,
			na_mg_l: 33,
			k_mg_l: 4,
			hco3_mg_l: 256,
			cl_mg_l: 60,
			so4_mg_l: 55,
			no3_n_mg_l: 6,
		},
		ecUsCm: 772,
		ph: 7.4,
	},
	// A dry summer by the sea: salt has come in, the alkalinity is as it was.
	{
		station: 'borehole',
		daysAgo: 70,
		ions: {
			ca_mg_l: 101,
			mg_mg_l: 15,
			na_mg_l: 49,
			k_mg_l: 4.4,
			hco3_mg_l: 256,
			cl_mg_l: 92,
			so4_mg_l: 58,
			no3_n_mg_l: 5.6,
		},
		ecUsCm: 866,
		ph: 7.5,
	},
	{
		station: 'rain',
		daysAgo: 70,
		ions: { ca_mg_l: 4.2, mg_mg_l: 0.7, na_mg_l: 4.5, k_mg_l: 0.4, hco3_mg_l: 15, cl_mg_l: 7.2, so4_mg_l: 3 },
		ecUsCm: 58,
		ph: 6.3,
	},
];
