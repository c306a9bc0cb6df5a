import type { LabelAnalysis, LabelProblem } from '@/core/mix/feed/label-analysis';

const WORDS: Record<LabelProblem, (text: string) => string> = {
	'no-such-nutrient': (t) =>
		`“${t}” names nothing known here: N, nitrate nitrogen, P2O5, K2O, Ca, Mg, S, Fe and so on, each with its percent.`,
	'no-amount': (t) => `“${t}” has no number.`,
	'no-such-share': (t) => `“${t}”: percent by weight (%), by volume (% w/v), g/L or mg/kg.`,
	'density-wanted': (t) =>
		`“${t}” is percent by weight, and how much that is in a millilitre depends on the density: fill in g/mL, or weigh 100 mL.`,
	'more-than-all': () => 'That adds up to more than the whole product: a decimal mark, or oxides and elements both?',
	'given-twice': (t) => `“${t}” was given before, with another number.`,
};

/** What of a label was not understood. */
export const labelProblemWords = (p: LabelAnalysis['problems'][number]): string => WORDS[p.code](p.text);

/** What a nutrient is called in a table. */
export const NUTRIENT_WORDS: Record<string, string> = {
	no3_n_mg_l: 'N as nitrate',
	nh4_n_mg_l: 'N as ammonium',
	urea_n_mg_l: 'N as urea',
	p_mg_l: 'P',
	k_mg_l: 'K',
	ca_mg_l: 'Ca',
	mg_mg_l: 'Mg',
	so4_mg_l: 'sulfate',
	na_mg_l: 'Na',
	cl_mg_l: 'Cl',
	hco3_mg_l: 'bicarbonate',
	co3_mg_l: 'carbonate',
	f_mg_l: 'F',
	fe_mg_l: 'Fe',
	mn_mg_l: 'Mn',
	zn_mg_l: 'Zn',
	cu_mg_l: 'Cu',
	b_mg_l: 'B',
	mo_mg_l: 'Mo',
	si_mg_l: 'Si',
	al_mg_l: 'Al',
};
