import { MG_L_CACO3_PER_MEQ } from '../../chem/constants';
import { IONS, type IonKey, TRACES, type TraceKey } from '../ions';
import { type Dissolved, FORMS, NAMES, type Whole } from './forms';
import { type Mark, readNumber } from './number';

/** One line of a report: name, value and unit in any order that laboratories use. */
export type LineRead =
	| { what: 'dissolved'; key: Dissolved; mgL: number; below: boolean }
	| { what: 'whole'; key: Whole; value: number; below: boolean }
	/** A head, or something that was looked for and not found. */
	| { what: 'nothing' }
	| { what: 'problem'; code: LineCode; text: string };
export type LineCode =
	| 'not-a-value'
	| 'below-nothing'
	| 'no-such-ion'
	| 'no-unit-of-an-ion'
	| 'no-unit-of-ec'
	| 'ambiguous-number'
	| 'no-such-form';

const EC: Record<string, number> = { 'us/cm': 1, 'ms/cm': 1000, 'ds/m': 1000, 'ms/m': 10, 'us/m': 0.01 };
/** mg/L as CaCO3 in one degree of hardness or alkalinity: German, French, English; grains per US gallon. */
const GERMAN = MG_L_CACO3_PER_MEQ / 2.804;
const DEGREES: Record<string, number> = {
	dh: GERMAN,
	dkh: GERMAN,
	dgh: GERMAN,
	fh: 10,
	f: 10,
	e: 14.25,
	clark: 14.25,
	gpg: 17.12,
};
const MASS: Record<string, number> = {
	'mg/l': 1,
	ppm: 1,
	'g/m3': 1,
	'mg/kg': 1,
	'ug/l': 0.001,
	ppb: 0.001,
	'mg/m3': 0.001,
	'g/l': 1000,
};

const plainly = (text: string): string =>
	text
		.replace(/[₀-₉]/g, (c) => String(c.charCodeAt(0) - 0x2080))
		.replace(/[⁰¹²³⁴-⁹]/g, (c) => String('⁰¹²³⁴⁵⁶⁷⁸⁹'.indexOf(c)))
		.replaceAll('⁺', '+')
		.replace(/[⁻−–]/g, '-')
		.replace(/[µμ]/g, 'u')
		.replaceAll('℃', '°C');

/** What a name stands for, without charges and the words that laboratories put around it. */
function named(text: string): readonly [Dissolved | Whole, string?] | undefined {
	const name = text
		.toLowerCase()
		.replace(/\([^)]*\)/g, ' ')
		.replace(/\b(total|dissolved(?! solids)|soluble|free|ion|ions|calculated|filtered|field|lab|at|electrical)\b/g, ' ')
		.replace(/[,;:=|*"]+/g, ' ')
		.replace(/\s+/g, ' ')
		.trim();
	const known = (n: string) => (Object.hasOwn(NAMES, n) ? NAMES[n] : undefined);
	return (
		known(name) ??
		known(name.replace(/\s*[+-]+$/, '')) ??
		known(name.replace(/\s*[1-4][+-]+$|\s*[+-]+[1-4]$/, '')) ??
		known(name.replace(/^nitrogen (ammonium|ammonia|nitrate)$/, '$1 nitrogen')) ??
		known(name.split(' ').reverse().join(' '))
	);
}

/** The form that is named somewhere in a line: "as N", "(as CaCO3)", "mg NO3/L", "mg/L CaCO3". */
function formIn(text: string): string | null {
	const m =
		/\bas\s+([A-Za-z][A-Za-z0-9]*)/.exec(text) ??
		/\((?:as\s+)?((?:CaCO3|HCO3|CO3|NO3|NH4|NH3|N|P|PO4|P2O5|K2O|CaO|MgO|SiO2|SO4|S|SO3))[+-]?\d?[+-]?\)/i.exec(text) ??
		/m?g\s+([A-Z][A-Za-z0-9]*)[+-]?\s*\/\s*l/i.exec(text) ??
		/(?:mg\/l|ppm)\s*\(?(CaCO3|NO3|NH4|PO4|P2O5|SiO2|SO4|N|P|S)\b/i.exec(text);
	return m ? m[1]!.toLowerCase() : null;
}

const UNIT =
	/(?<![A-Za-z0-9])((?:[mu]?g|g)(?:\s+[A-Za-z0-9]+[+-]?)?\s*\/\s*(?:l|m3|kg)|ppm|ppb|m?(?:eq|val)\s*\/\s*l|[mu]?mol\s*\/\s*l|(?:[mu]s|ds)\s*\/\s*c?m|°\s*[a-z]+|gpg|d[kg]?h\b|fh\b|°?clark)(?![A-Za-z])/i;
const VALUE = /^([<>≤≥~]?)\s*(-?)(\d[\d.,]*(?:[\s\u00a0'](?=\d{3}(?!\d))\d{3})*)/;
const NOT_FOUND = /\b(?:n\.?\s?d\b\.?|not detected\b|none detected\b|bdl\b|nil\b)/i;

/** What one line says. @param mark the decimal mark of the report, where it is known */
export function readLine(raw: string, mark: Mark): LineRead {
	const line = plainly(raw)
		.replace(/\b(?:at|@)\s*\d{2}\s*°?\s*C\b|\bto pH\s*[\d.,]+|\b(?:ks|kb)\s*[\d.,]+|\bec25\b/gi, (m) =>
			/ec25/i.test(m) ? 'EC' : ' ',
		)
		// A comma that is in no number parts cells.
		.replace(/,(?=\D)|(?<=\D),/g, ' ')
		.replace(/[;|\t=]+/g, ' ')
		.replace(/:(?=\s|\d|<)/g, ' ')
		.replace(/\s+/g, ' ')
		.trim();
	if (line === '' || /^(parameter|analyte|name|ion|determinand|test)\b/i.test(line)) return { what: 'nothing' };
	const bad = (code: LineCode, text: string): LineRead => ({ what: 'problem', code, text: text.trim().slice(0, 60) });
	// Its value is the first number that stands by itself: not the 4 of SO4, not a charge.
	const starts = [...line.matchAll(/(?<=^|\s)[<>≤≥~]?\s*-?\d/g)].map((m) => m.index);
	const at = starts.find((i) => !/^\d[+-](?=\s|$)/.test(line.slice(i)) && i > 0);
	const name = at === undefined ? line : line.slice(0, at);
	const unitBefore = UNIT.exec(name);
	const bare = unitBefore ? name.replace(unitBefore[0], ' ') : name;
	const what = named(bare.replace(/\bas\s+[A-Za-z0-9]+/i, ' ').replace(NOT_FOUND, ' '));
	if (at === undefined) return what && NOT_FOUND.test(line) ? { what: 'nothing' } : bad('not-a-value', line);
	const m = VALUE.exec(line.slice(at))!;
	const number = readNumber(m[3]!, mark);
	if (number === null) return bad('not-a-value', line);
	if (!what) return bad('no-such-ion', bare);
	if (number === 'ambiguous') return bad('ambiguous-number', m[3]!);
	if (m[2]) return bad('below-nothing', bare);
	const rest = line.slice(at + m[0].length);
	const unit = (UNIT.exec(rest)?.[0] ?? unitBefore?.[0] ?? '').toLowerCase().replace(/\s+/g, '');
	const unknown = unit === '' && /^[A-Za-z]/.test(rest.trim()) && !/^(as|max|min|limit)\b/i.test(rest.trim());
	const below = m[1] === '<' || m[1] === '≤';
	return valued(what, below ? 0 : number, below, { unit, form: formIn(line), bad, unknown: unknown ? rest : null });
}

interface Given {
	unit: string;
	form: string | null;
	bad: (code: LineCode, text: string) => LineRead;
	/** Words where a unit should be. */
	unknown: string | null;
}

function valued(
	[key, usual]: readonly [Dissolved | Whole, string?],
	value: number,
	below: boolean,
	{ unit, form, bad, unknown }: Given,
): LineRead {
	const whole = (key: Whole, v: number): LineRead => ({ what: 'whole', key, value: v, below });
	if (key === 'ph' || key === 'temperature') return whole(key, value);
	if (key === 'ec') {
		const factor = EC[unit] ?? (unit === '' && unknown === null ? (value < 20 ? 1000 : 1) : undefined);
		return factor === undefined ? bad('no-unit-of-ec', unknown ?? unit) : whole('ec', value * factor);
	}
	if (unknown !== null) return bad('no-unit-of-an-ion', unknown);
	const mass = MASS[unit.replace(/^([mu]?g)[a-z0-9]+[+-]?\//, '$1/')];
	const degrees = DEGREES[unit.replace('°', '')];
	if (key === 'hardness' || key === 'alkalinity') {
		const molar = key === 'hardness' ? 2 * MG_L_CACO3_PER_MEQ : MG_L_CACO3_PER_MEQ;
		const per =
			mass !== undefined || unit === ''
				? (mass ?? 1) * (form === 'hco3' ? 1 / (FORMS.hco3_mg_l!.caco3 ?? 1) : 1)
				: (degrees ?? moles(unit, molar, MG_L_CACO3_PER_MEQ));
		return per === null ? bad('no-unit-of-an-ion', unit) : whole(key, value * per);
	}
	if (key === 'tds')
		return mass === undefined && unit !== '' ? bad('no-unit-of-an-ion', unit) : whole(key, value * (mass ?? 1));
	const forms = FORMS[key];
	const meant = form ?? usual ?? null;
	const factor = meant === null || !forms ? 1 : forms[meant];
	// Sodium as Na, chloride as Cl: the form that it is kept in anyway.
	if (factor === undefined) return bad('no-such-form', form ?? '');
	const done = (mgL: number): LineRead => ({ what: 'dissolved', key, mgL, below });
	if (mass !== undefined || unit === '') return done(value * (mass ?? 1) * factor);
	if (degrees !== undefined && (key === 'hco3_mg_l' || key === 'ca_mg_l' || key === 'mg_mg_l'))
		return done(((value * degrees) / MG_L_CACO3_PER_MEQ) * IONS[key].mgPerMeq);
	const ion = key in IONS ? IONS[key as IonKey] : null;
	const molar = ion ? ion.mgPerMeq * Math.abs(ion.charge) : TRACES[key as TraceKey].mass;
	const per = moles(unit, molar, ion?.mgPerMeq ?? null);
	return per === null ? bad('no-unit-of-an-ion', unit) : done(value * per);
}

/** mg/L in one of a unit of amount; null where it is none. */
function moles(unit: string, molar: number, perMeq: number | null): number | null {
	if (unit === 'mmol/l') return molar;
	if (unit === 'umol/l') return molar / 1000;
	if (unit === 'mol/l') return molar * 1000;
	return /^m(eq|val)\/l$/.test(unit) ? perMeq : null;
}
