import type { Remark } from '../../remark';
import { ELEMENTS, FORMS } from '../../water/report/forms';
import { markOf, readNumber } from '../../water/report/number';
import { type Content, type NutrientKey, nitrogenOf, sumOf } from './content';

/**
 * The analysis on a label as it stands there: `4-2-7`, `Nitrate nitrogen 11.8 %, K2O 43 %`, `CaO 26 % w/v`, `Mg 20 g/L`. Percent is
 * by weight unless it says w/v; a name may mean the oxide (P2O5, K2O, phosphate, potash) or the element. What is not understood is
 * told piece by piece, never guessed.
 */
export interface LabelAnalysis {
	/** mg in a mL or g of the product; null where nothing was understood or its density is wanted. */
	content: Content | null;
	understood: { text: string; key: NutrientKey; percent: number }[];
	problems: { code: LabelProblem; text: string }[];
	remarks: Remark[];
}
export type LabelProblem =
	| 'no-such-nutrient'
	| 'no-amount'
	| 'no-such-share'
	| 'density-wanted'
	| 'more-than-all'
	| 'given-twice';

type Total = 'n_total';
/** A name on a label: what it stands for, in which form. */
const NAMES: Record<string, readonly [NutrientKey | Total, string?]> = {
	...ELEMENTS,
	n: ['n_total'],
	nitrogen: ['n_total'],
	'no3-n': ['no3_n_mg_l'],
	'n-no3': ['no3_n_mg_l'],
	'nitrate nitrogen': ['no3_n_mg_l'],
	'nitric nitrogen': ['no3_n_mg_l'],
	'nitrate n': ['no3_n_mg_l'],
	nitrate: ['no3_n_mg_l'],
	no3: ['no3_n_mg_l', 'no3'],
	'nh4-n': ['nh4_n_mg_l'],
	'n-nh4': ['nh4_n_mg_l'],
	'ammonium nitrogen': ['nh4_n_mg_l'],
	'ammoniacal nitrogen': ['nh4_n_mg_l'],
	'ammonia nitrogen': ['nh4_n_mg_l'],
	'ammonium n': ['nh4_n_mg_l'],
	ammonium: ['nh4_n_mg_l'],
	nh4: ['nh4_n_mg_l', 'nh4'],
	'urea nitrogen': ['urea_n_mg_l'],
	'ureic nitrogen': ['urea_n_mg_l'],
	'urea-n': ['urea_n_mg_l'],
	urea: ['urea_n_mg_l'],
	phosphate: ['p_mg_l', 'p2o5'],
	'phosphoric acid': ['p_mg_l', 'p2o5'],
	'phosphorus pentoxide': ['p_mg_l', 'p2o5'],
	potash: ['k_mg_l', 'k2o'],
	'potassium oxide': ['k_mg_l', 'k2o'],
	cao: ['ca_mg_l', 'cao'],
	'calcium oxide': ['ca_mg_l', 'cao'],
	mgo: ['mg_mg_l', 'mgo'],
	'magnesium oxide': ['mg_mg_l', 'mgo'],
	so3: ['so4_mg_l', 'so3'],
	'sulfur trioxide': ['so4_mg_l', 'so3'],
	chlorine: ['cl_mg_l'],
};

/** Words that labels put around a name and that change nothing. */
const AROUND = /\b(?:total|water|soluble|available|in|the|form|of|chelated|edta|dtpa|eddha|w\/w|by|weight)\b/g;
const TRIPLE = /^(?:npk\s*)?(\d+(?:[.,]\d+)?)\s*[-–:]\s*(\d+(?:[.,]\d+)?)\s*[-–:]\s*(\d+(?:[.,]\d+)?)\s*%?$/i;
/** The first number that stands by itself, and what it is a share of: not the 5 of P2O5. */
const AMOUNT = /(?<![A-Za-z0-9.])(\d[\d.,]*)\s*(%(?:\s*w\/[wv])?|g\/l|mg\/l|ppm|mg\/kg|g\/kg)?/i;

type Share = 'weight' | 'volume';
/** What one of a share is in mg for each g (by weight) or each mL (by volume). */
const SHARES: Record<string, { mg: number; of: Share }> = {
	'': { mg: 10, of: 'weight' },
	'%': { mg: 10, of: 'weight' },
	'%w/w': { mg: 10, of: 'weight' },
	'%w/v': { mg: 10, of: 'volume' },
	'g/kg': { mg: 1, of: 'weight' },
	'mg/kg': { mg: 0.001, of: 'weight' },
	ppm: { mg: 0.001, of: 'weight' },
	'g/l': { mg: 1, of: 'volume' },
	'mg/l': { mg: 0.001, of: 'volume' },
};

interface Found {
	text: string;
	key: NutrientKey | Total;
	/** mg of what is kept, for each g or mL. */
	mg: number;
	of: Share;
}

/**
 * @param unit how the product is measured @param densityGMl of a liquid, where its label says it: percent by weight wants it
 * @example readAnalysis('13.7-0-46', 'g', null).content.k_mg_l.toFixed(0) // '382'
 */
export function readAnalysis(text: string, unit: 'mL' | 'g', densityGMl: number | null): LabelAnalysis {
	const problems: LabelAnalysis['problems'] = [];
	const found: Found[] = [];
	const mark = markOf(text);
	const amountOf = (digits: string): number | null => {
		const n = readNumber(digits, mark ?? 'point');
		return typeof n === 'number' && Number.isFinite(n) ? n : null;
	};
	for (const piece of text.split(/[\n;]|,(?=\s)|,(?=[A-Za-z])/)) {
		const t = piece.replace(/[₀-₉]/g, (c) => String(c.charCodeAt(0) - 0x2080)).trim();
		if (t === '') continue;
		const triple = TRIPLE.exec(t);
		if (triple) {
			const forms = [['n_total'], ['p_mg_l', 'p2o5'], ['k_mg_l', 'k2o']] as const;
			forms.forEach(([key, form], i) => {
				const n = amountOf(triple[i + 1]!);
				if (n !== null) found.push({ text: t, key, mg: 10 * n * factorOf(key, form), of: 'weight' });
			});
			continue;
		}
		const read = readPiece(t, amountOf);
		if ('code' in read) problems.push(read);
		else found.push(read);
	}
	return weighed(found, problems, unit, densityGMl);
}

function readPiece(t: string, amountOf: (digits: string) => number | null): Found | LabelAnalysis['problems'][number] {
	const m = AMOUNT.exec(t);
	if (!m) return { code: 'no-amount', text: t };
	const share = SHARES[(m[2] ?? '').toLowerCase().replace(/\s+/g, '')];
	const name = named(`${t.slice(0, m.index)} ${t.slice(m.index + m[0].length)}`);
	if (!name) return { code: 'no-such-nutrient', text: t };
	const n = amountOf(m[1]!);
	if (n === null) return { code: 'no-amount', text: t };
	if (!share) return { code: 'no-such-share', text: t };
	return { text: t, key: name[0], mg: n * share.mg * factorOf(name[0], name[1]), of: share.of };
}

/** Forms stand in brackets or after “as”: `P (as P2O5)`. */
function named(text: string): readonly [NutrientKey | Total, string?] | undefined {
	const lower = text.toLowerCase();
	const form = /(?:\(|\bas\s+)(p2o5|k2o|cao|mgo|so3|so4|sio2|no3|nh4|s|n|p|k|ca|mg|si)\b/.exec(lower)?.[1];
	const plain = lower
		.replace(/\([^)]*\)/g, ' ')
		.replace(/\bas\s+\w+/g, ' ')
		.replace(AROUND, ' ')
		.replace(/[:=%.,]+/g, ' ')
		.replace(/\s+/g, ' ')
		.trim();
	const known = Object.hasOwn(NAMES, plain) ? NAMES[plain] : undefined;
	if (!known) return form !== undefined && plain === '' && Object.hasOwn(NAMES, form) ? NAMES[form] : undefined;
	return form !== undefined && FORMS[known[0] as keyof typeof FORMS]?.[form] !== undefined ? [known[0], form] : known;
}

const factorOf = (key: NutrientKey | Total, form: string | undefined): number =>
	form === undefined ? 1 : (FORMS[key as keyof typeof FORMS]?.[form] ?? 1);

const ALIKE = 0.02;

/** All that was found, in mg for each mL or g of the product. */
function weighed(
	found: readonly Found[],
	problems: LabelAnalysis['problems'],
	unit: 'mL' | 'g',
	densityGMl: number | null,
): LabelAnalysis {
	const remarks: Remark[] = [];
	const understood: LabelAnalysis['understood'] = [];
	const content: Content = {};
	let nTotal: number | null = null;
	// By weight for a liquid needs its density; by volume for a powder says nothing.
	const wanted = found.find((f) => (f.of === 'weight') !== (unit === 'g') && densityGMl === null);
	if (wanted) problems.push({ code: 'density-wanted', text: wanted.text });
	const scale = (f: Found) =>
		f.of === 'weight' && unit === 'mL'
			? (densityGMl ?? 1)
			: f.of === 'volume' && unit === 'g'
				? 1 / (densityGMl ?? 1)
				: 1;
	for (const f of found) {
		const mg = f.mg * scale(f);
		if (f.key === 'n_total') nTotal = Math.max(nTotal ?? 0, mg);
		else {
			const before = content[f.key];
			if (before !== undefined && Math.abs(before - mg) > ALIKE * Math.max(before, mg))
				problems.push({ code: 'given-twice', text: f.text });
			else content[f.key] = mg;
			understood.push({ text: f.text, key: f.key, percent: f.mg / 10 });
		}
	}
	const forms = nitrogenOf(content);
	if (nTotal !== null && nTotal > forms * (1 + ALIKE) + 1e-9) {
		// Most feeds for growing without soil hold nitrate; the label does not say, so this is said beside it.
		content.no3_n_mg_l = (content.no3_n_mg_l ?? 0) + (nTotal - forms);
		understood.push({ text: found.find((f) => f.key === 'n_total')!.text, key: 'no3_n_mg_l', percent: nTotal / 10 });
		remarks.push({ code: 'nitrogen-taken-as-nitrate', share: 1 - forms / nTotal });
	}
	const grams = Object.values(content).reduce((sum, mg) => sum + mg, 0) / 1000;
	if (grams > (unit === 'g' ? 1 : (densityGMl ?? 2))) problems.push({ code: 'more-than-all', text: '' });
	const usable = Object.keys(content).length > 0 && !wanted && !problems.some((p) => p.code === 'more-than-all');
	return { content: usable ? content : null, understood, problems, remarks };
}

const BOTTLE = /(?:^|\n)\s*(?:part\s+)?([A-F])\s*[:.)]/i;

/**
 * The labels of a product that comes in several bottles: `A: N 8 %, Ca 10 %` and `B: K2O 12 %` on lines of their own. Without letters
 * it is the analysis of all together.
 */
export function readBottles(
	text: string,
	bottles: number,
	unit: 'mL' | 'g',
	densityGMl: number | null,
): { all: LabelAnalysis; each: (Content | null)[] } {
	const pieces = bottles > 1 ? text.split(BOTTLE) : [text];
	if (pieces.length < 3) {
		const all = readAnalysis(text, unit, densityGMl);
		return { all, each: Array.from({ length: bottles }, () => (bottles === 1 ? all.content : null)) };
	}
	const each = Array.from({ length: bottles }, (): LabelAnalysis | null => null);
	for (let i = 1; i < pieces.length; i += 2) {
		const bottle = pieces[i]!.toUpperCase().charCodeAt(0) - 65;
		if (bottle < bottles) each[bottle] = readAnalysis(pieces[i + 1]!, unit, densityGMl);
	}
	const read = each.filter((x) => x !== null);
	return {
		all: {
			content: read.length === bottles && read.every((x) => x.content) ? sumOf(read.map((x) => [x.content!, 1])) : null,
			understood: read.flatMap((x) => x.understood),
			problems: read.flatMap((x) => x.problems),
			remarks: read.flatMap((x) => x.remarks),
		},
		each: each.map((x) => x?.content ?? null),
	};
}
