import { HCO3_PER_CACO3 } from '../chem/constants';
import { decimal } from '../quantity';
import { IONS, type IonKey, type Ions } from './ions';

/**
 * A laboratory report as it is typed or pasted: a line for each value, "name value unit", in the units laboratories use.
 * What is given as something else (nitrate as NO3, alkalinity as CaCO3, hardness in degrees) is brought to the report's
 * own form; what is not understood is said line by line.
 */
export interface ReportText {
	ions: Ions;
	ecUsCm: number | null;
	ph: number | null;
	boronMgL: number | null;
	problems: ({ line: number } & LineProblem)[];
}

/** What is wrong with a line of a report, with what was written. */
export interface LineProblem {
	code: 'not-a-value' | 'below-nothing' | 'no-unit-of-ec' | 'no-such-ion' | 'no-unit-of-an-ion';
	text: string;
}

/** Names as laboratories write them; the factor brings mg/L of that form to the report's own. */
const NAMES: Record<string, readonly [IonKey, number]> = {
	ca: ['ca_mg_l', 1],
	calcium: ['ca_mg_l', 1],
	mg: ['mg_mg_l', 1],
	magnesium: ['mg_mg_l', 1],
	na: ['na_mg_l', 1],
	sodium: ['na_mg_l', 1],
	k: ['k_mg_l', 1],
	potassium: ['k_mg_l', 1],
	'nh4-n': ['nh4_n_mg_l', 1],
	nh4: ['nh4_n_mg_l', 1 / 1.288],
	ammonium: ['nh4_n_mg_l', 1 / 1.288],
	'no3-n': ['no3_n_mg_l', 1],
	'nitrate-n': ['no3_n_mg_l', 1],
	no3: ['no3_n_mg_l', 1 / 4.427],
	nitrate: ['no3_n_mg_l', 1 / 4.427],
	cl: ['cl_mg_l', 1],
	chloride: ['cl_mg_l', 1],
	so4: ['so4_mg_l', 1],
	sulfate: ['so4_mg_l', 1],
	sulphate: ['so4_mg_l', 1],
	'so4-s': ['so4_mg_l', 2.996],
	hco3: ['hco3_mg_l', 1],
	bicarbonate: ['hco3_mg_l', 1],
	alkalinity: ['hco3_mg_l', HCO3_PER_CACO3],
	co3: ['co3_mg_l', 1],
	carbonate: ['co3_mg_l', 1],
	p: ['p_mg_l', 1],
	phosphorus: ['p_mg_l', 1],
	p2o5: ['p_mg_l', 1 / 2.291],
	f: ['f_mg_l', 1],
	fluoride: ['f_mg_l', 1],
};

const EC_UNITS: Record<string, number> = { 'us/cm': 1, 'µs/cm': 1, 'ms/cm': 1000, 'ds/m': 1000, 'ms/m': 10 };

/**
 * A report from the lines as they were typed or pasted, in any of the usual forms and units.
 * @example readReportText('nitrate 44.27 mg/L').ions.no3_n_mg_l // 10
 */
export function readReportText(text: string): ReportText {
	const result: ReportText = { ions: {}, ecUsCm: null, ph: null, boronMgL: null, problems: [] };
	for (const [i, raw] of text.split(/\r?\n/).entries()) {
		const line = raw.trim();
		if (line === '' || /^(parameter|name|ion)\b/i.test(line)) continue;
		const bad = (code: LineProblem['code'], text: string) => result.problems.push({ line: i + 1, code, text });
		const m = /^([A-Za-z][A-Za-z0-9₀-₉ +-]*?)[\s,;:=]+<?\s*(-?[\d.,]+)\s*[,;]?\s*([^\d\s].*)?$/.exec(line);
		const value = m && decimal(m[2]!.replace(/,$/, ''));
		if (!m || value === undefined || value === null) {
			bad('not-a-value', line.slice(0, 40));
			continue;
		}
		const name = m[1]!.trim().toLowerCase().replace(/[+]+$/, '').replace(/\s+/g, '-');
		const unit = (m[3] ?? 'mg/L').trim().toLowerCase();
		if (value < 0) bad('below-nothing', m[1]!);
		else if (name === 'ec' || name === 'conductivity') {
			const factor = EC_UNITS[unit] ?? (m[3] === undefined ? (value < 20 ? 1000 : 1) : undefined);
			if (factor === undefined) bad('no-unit-of-ec', m[3]!);
			else result.ecUsCm = value * factor;
		} else if (name === 'ph') result.ph = value;
		else if (name === 'b' || name === 'boron') result.boronMgL = value;
		else {
			const known = NAMES[name];
			if (!known) {
				bad('no-such-ion', m[1]!);
				continue;
			}
			const [key, factor] = known;
			const mg = inMgL(key, value, unit, factor);
			if (mg === null) bad('no-unit-of-an-ion', m[3]!);
			else result.ions[key] = (result.ions[key] ?? 0) + mg;
		}
	}
	return result;
}

function inMgL(key: IonKey, value: number, unit: string, factor: number): number | null {
	const ion = IONS[key];
	if (/^(mg\/l|ppm|g\/m3)/.test(unit))
		return value * (unit.includes('caco3') && key === 'hco3_mg_l' ? HCO3_PER_CACO3 : factor);
	if (/^m(eq|val)\/l/.test(unit)) return value * ion.mgPerMeq;
	if (/^mmol\/l/.test(unit)) return value * ion.mgPerMeq * Math.abs(ion.charge);
	if (/^°?dkh/.test(unit) && key === 'hco3_mg_l') return (value / 2.804) * ion.mgPerMeq;
	return null;
}
