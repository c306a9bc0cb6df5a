import { MG_L_CACO3_PER_MEQ } from '../../chem/constants';
import { type Dissolved, ION_KEYS, IONS, type IonKey, type Ions, meqOf, TRACE_KEYS, type TraceKey } from '../ions';
import type { Dissolved as DissolvedKey, Whole } from './forms';
import { type LineCode, readLine } from './line';
import { markOf } from './number';

/**
 * A laboratory report as it is typed or pasted: a line for each value, "name value unit", in the units laboratories use.
 * What is given as something else (nitrate as NO3, alkalinity as CaCO3, hardness in degrees) is brought to the report's own form.
 * What is not understood is said line by line, and never guessed: what is given twice and differs is asked about too.
 */
export interface ReportText {
	ions: Ions;
	traces: Partial<Record<TraceKey, number>>;
	ecUsCm: number | null;
	ph: number | null;
	/** As it was given, beside what calcium and magnesium make. */
	hardnessMgLCaco3: number | null;
	tdsMgL: number | null;
	/** What each line was understood as. */
	understood: { line: number; text: string; key: DissolvedKey | Whole; value: number; below: boolean }[];
	problems: ({ line: number } & LineProblem)[];
}
/** What is wrong with a line of a report, with what was written. */
export interface LineProblem {
	code: LineCode | 'given-twice' | 'hardness-differs';
	text: string;
}

/** What two lines of one thing may differ by and still be the same, rounded by two hands. */
const ALIKE = 0.05;
/** And what a stated hardness may differ from calcium and magnesium. */
const HARDNESS_ALIKE = 0.1;
const alike = (a: number, b: number, by: number) => Math.abs(a - b) <= by * Math.max(Math.abs(a), Math.abs(b)) + 1e-9;

/**
 * A report from the lines as they were typed or pasted, in any of the usual forms and units.
 * @example readReportText('nitrate 44.27 mg/L').ions.no3_n_mg_l.toFixed(2) // '10.00'
 */
export function readReportText(text: string): ReportText {
	const mark = markOf(text);
	const found = new Map<DissolvedKey | Whole, { line: number; text: string; value: number }[]>();
	const understood: ReportText['understood'] = [];
	const problems: ReportText['problems'] = [];
	for (const [i, raw] of text.split(/\r?\n/).entries()) {
		const read = readLine(raw, mark);
		if (read.what === 'nothing') continue;
		if (read.what === 'problem') {
			problems.push({ line: i + 1, code: read.code, text: read.text });
			continue;
		}
		const value = read.what === 'dissolved' ? read.mgL : read.value;
		found.set(read.key, [...(found.get(read.key) ?? []), { line: i + 1, text: raw.trim(), value }]);
		understood.push({ line: i + 1, text: raw.trim(), key: read.key, value, below: read.below });
	}
	/** The one value of a thing; where two lines differ, none, and it is asked which. */
	const one = (key: DissolvedKey | Whole): number | null => {
		const all = found.get(key);
		if (!all) return null;
		const odd = all.find((x) => !alike(x.value, all[0]!.value, ALIKE));
		if (!odd) return all[0]!.value;
		problems.push({ line: odd.line, code: 'given-twice', text: `${all[0]!.text} / ${odd.text}` });
		return null;
	};
	const dissolved: Dissolved = {};
	for (const key of [...ION_KEYS, ...TRACE_KEYS]) {
		const value = one(key);
		if (value !== null) dissolved[key] = value;
	}
	takeAlkalinity(dissolved, one('alkalinity'), found, problems);
	const hardness = one('hardness');
	const { ca_mg_l: ca, mg_mg_l: mg } = dissolved;
	if (hardness !== null && ca !== undefined && mg !== undefined) {
		const made = MG_L_CACO3_PER_MEQ * (meqOf('ca_mg_l', ca) + meqOf('mg_mg_l', mg));
		if (!alike(made, hardness, HARDNESS_ALIKE)) {
			const { line, text } = found.get('hardness')![0]!;
			problems.push({ line, code: 'hardness-differs', text: `${text} / ${Math.round(made)} mg/L CaCO3` });
		}
	}
	const pick = <K extends IonKey | TraceKey>(keys: readonly K[]): Partial<Record<K, number>> =>
		Object.fromEntries(keys.flatMap((k) => (dissolved[k] === undefined ? [] : [[k, dissolved[k]]]))) as Partial<
			Record<K, number>
		>;
	return {
		ions: pick(ION_KEYS),
		traces: pick(TRACE_KEYS),
		ecUsCm: one('ec'),
		ph: one('ph'),
		hardnessMgLCaco3: hardness,
		tdsMgL: one('tds'),
		understood,
		problems: problems.sort((a, b) => a.line - b.line),
	};
}

/**
 * Alkalinity is bicarbonate and carbonate together. Beside a line of bicarbonate it says the same again: it is taken once, and
 * asked about where the two differ.
 */
function takeAlkalinity(
	dissolved: Dissolved,
	mgLCaco3: number | null,
	found: ReadonlyMap<DissolvedKey | Whole, { line: number; text: string }[]>,
	problems: ReportText['problems'],
): void {
	if (mgLCaco3 === null) return;
	const carbonate = meqOf('co3_mg_l', dissolved.co3_mg_l ?? 0);
	const hco3 = Math.max(mgLCaco3 / MG_L_CACO3_PER_MEQ - carbonate, 0) * IONS.hco3_mg_l.mgPerMeq;
	const own = dissolved.hco3_mg_l;
	if (own === undefined) {
		// Two lines of bicarbonate that differ were asked about already.
		if (!found.has('hco3_mg_l')) dissolved.hco3_mg_l = hco3;
		return;
	}
	if (alike(own, hco3, HARDNESS_ALIKE)) return;
	const [a, b] = [found.get('alkalinity')![0]!, found.get('hco3_mg_l')![0]!];
	problems.push({ line: Math.max(a.line, b.line), code: 'given-twice', text: `${a.text} / ${b.text}` });
	delete dissolved.hco3_mg_l;
}
