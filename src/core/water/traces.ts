import type { Remark } from '../remark';
import { BORON_MG_L } from './classes';
import { type Dissolved, TRACE_KEYS, type TraceKey } from './ions';

/** What is advised on; silicon harms nothing. */
export type AdvisedTrace = Exclude<TraceKey, 'si_mg_l'> | 'f_mg_l';
const ADVISED: readonly AdvisedTrace[] = [
	...TRACE_KEYS.filter((k): k is Exclude<TraceKey, 'si_mg_l'> => k !== 'si_mg_l'),
	'f_mg_l',
];

/** mg/L that irrigation water should hold at most (FAO Irrigation and Drainage Paper 29, table 21; boron as its classes have it; from memory). */
const MOST: Record<AdvisedTrace, number> = {
	b_mg_l: BORON_MG_L,
	fe_mg_l: 5,
	mn_mg_l: 0.2,
	zn_mg_l: 2,
	cu_mg_l: 0.2,
	mo_mg_l: 0.01,
	al_mg_l: 5,
	f_mg_l: 1,
};
/** Where emitters begin to clog, and clog badly, mg/L (the same, table 22 after Bucks and Nakayama; from memory). */
const CLOGS: Partial<Record<AdvisedTrace, { from: number; badly: number }>> = {
	fe_mg_l: { from: 0.1, badly: 1.5 },
	mn_mg_l: { from: 0.1, badly: 1.5 },
};
/** What a feed for fruiting plants in substrate holds in all, mg/L: 30 B, 5 Zn, 0.75 Cu, 10 Mn µmol/L (Sonneveld and Straver; from memory). */
const FED: Partial<Record<AdvisedTrace, number>> = { b_mg_l: 0.32, zn_mg_l: 0.33, cu_mg_l: 0.048, mn_mg_l: 0.55 };
/** From this share of it on the recipe should count the water in. */
const COUNTS = 0.5;

/**
 * What the trace elements of a water mean for growing without soil: too much to use it alone, enough to be counted in the recipe, or
 * enough to clog drippers. Iron of a water is no feed: it falls out with air. mg/L.
 * @example traceRemarks({ b_mg_l: 0.9 }) // [{ code: 'trace-too-much', of: 'b_mg_l', mgL: 0.9, mostMgL: 0.7 }]
 */
export function traceRemarks(held: Dissolved): Remark[] {
	return ADVISED.flatMap((of): Remark[] => {
		const mgL = held[of];
		if (mgL === undefined) return [];
		const said: Remark[] = [];
		const fed = FED[of];
		if (mgL > MOST[of]) said.push({ code: 'trace-too-much', of, mgL, mostMgL: MOST[of] });
		else if (fed !== undefined && mgL >= COUNTS * fed) said.push({ code: 'trace-feeds', of, mgL, share: mgL / fed });
		const clogs = CLOGS[of];
		if (clogs && mgL >= clogs.from) said.push({ code: 'trace-clogs', of, mgL, badly: mgL >= clogs.badly });
		return said;
	});
}
