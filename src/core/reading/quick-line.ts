import { type PpmScale, parseTyped, QUANTITY, type Quantity, type TypedValue, type Unit, unitWord } from '../quantity';
import { parseQuickEvent, type QuickEvent } from './quick-event';

/**
 * The quick line: a reading typed as one would say it. `pond ph 5.8 ec 1.92 t 21.4`, `rain 36ppm`,
 * `gutters drain 6.4 2.9`, `slabs ph 5.9 with brass`.
 *
 * What was done to the water is said the same way: `pond +65L`, `slabs acid 38 ml` (see quick-event.ts).
 *
 * Numbers without a word are pH, then EC, then temperature. What is ambiguous is asked, never guessed.
 */
export interface QuickContext {
	stations: readonly { code: string; name: string }[];
	instruments: readonly { code: string; name: string; ppmScale: PpmScale | null }[];
	/** Unit of an EC typed without one. */
	ecUnit: Unit;
	tempUnit: Unit;
}

export interface QuickReading {
	quantity: Quantity;
	digits: string;
	unit: Unit;
}

export type QuickAsk =
	| { about: 'station'; candidates: string[] }
	| { about: 'ppm-scale' }
	| { about: 'word'; word: string }
	| { about: 'amount'; word: string }
	| { about: 'value' };

export interface QuickSample {
	station: string | null;
	/** Something was done to the water, and nothing was read. */
	event: QuickEvent | null;
	instrument: string | null;
	readings: QuickReading[];
	note: string;
	asks: QuickAsk[];
}

const WORDS: Record<string, Quantity> = {
	ph: 'ph',
	ec: 'ec',
	tds: 'tds',
	t: 'temp',
	temp: 'temp',
	level: 'level',
	vol: 'volume',
	volume: 'volume',
	do: 'do',
	orp: 'orp',
	mv: 'mv',
	no3: 'no3',
	k: 'k',
	ca: 'ca',
	alk: 'alkalinity',
	alkalinity: 'alkalinity',
	hardness: 'hardness',
	gh: 'hardness',
	air: 'air_temp',
	rh: 'humidity',
	humidity: 'humidity',
	moisture: 'moisture',
	vwc: 'moisture',
	sec: 'substrate_ec',
	flow: 'flow',
};
const BARE: readonly Quantity[] = ['ph', 'ec', 'temp'];
const CANONICAL_WHEN_BARE: Partial<Record<Quantity, Unit>> = {
	level: 'mm',
	volume: 'L',
	do: 'mg/L',
	orp: 'mV',
	mv: 'mV',
	no3: 'mg/L',
	k: 'mg/L',
	ca: 'mg/L',
	alkalinity: 'mg/L_CaCO3',
	hardness: 'mg/L_CaCO3',
	humidity: '%',
	moisture: '%',
	flow: 'L/h',
};

const fold = (text: string): string => text.toLowerCase().replace(/[-_]/g, ' ').replace(/\s+/g, ' ').trim();

/** Stations that a run of words may mean: an exact name first, else all whose name or code begins with each word. */
function stationsMeant(words: readonly string[], stations: QuickContext['stations']): string[] {
	const said = fold(words.join(' '));
	const exact = stations.filter((s) => fold(s.code) === said || fold(s.name) === said);
	if (exact.length > 0) return exact.map((s) => s.code);
	const parts = said.split(' ');
	const begins = (name: string) => {
		const have = fold(name).split(' ');
		return parts.length <= have.length && parts.every((p, i) => have[i]!.startsWith(p));
	};
	return stations.filter((s) => begins(s.name) || begins(s.code)).map((s) => s.code);
}

function takeStation(tokens: string[], context: QuickContext): { station: string | null; ask: QuickAsk | null } {
	// The most words that still mean something are the station.
	for (let n = Math.min(5, tokens.length); n > 0; n--) {
		const words = tokens.slice(0, n);
		// A quantity's word or a number ends the name, unless a station is called so.
		const meant = stationsMeant(words, context.stations);
		if (meant.length === 0) continue;
		tokens.splice(0, n);
		return meant.length === 1
			? { station: meant[0]!, ask: null }
			: { station: null, ask: { about: 'station', candidates: meant } };
	}
	return { station: null, ask: { about: 'station', candidates: [] } };
}

function takeInstrument(tokens: string[], context: QuickContext): string | null {
	for (let i = 0; i < tokens.length; i++) {
		const found = context.instruments.find(
			(x) => fold(x.code) === fold(tokens[i]!) || fold(x.name) === fold(tokens[i]!),
		);
		if (!found) continue;
		const joined = i > 0 && /^(with|by)$/i.test(tokens[i - 1]!);
		tokens.splice(joined ? i - 1 : i, joined ? 2 : 1);
		return found.code;
	}
	return null;
}

function quantityOfUnit(unit: Unit | 'ppm'): Quantity | null {
	if (unit === 'pH') return 'ph';
	if (unit === 'ppm' || unit.startsWith('ppm')) return 'tds';
	if (unit === 'C' || unit === 'F') return 'temp';
	if (['mS/cm', 'uS/cm', 'dS/m', 'CF'].includes(unit)) return 'ec';
	return unit === 'L' || unit === 'gal' ? 'volume' : unit === 'mm' ? 'level' : unit === 'mV' ? 'mv' : null;
}

/** What one typed line says: station, instrument, values with their units, a note after #; and what has to be asked. */
export function parseQuickLine(line: string, context: QuickContext): QuickSample {
	const hash = line.indexOf('#');
	const note = hash < 0 ? '' : line.slice(hash + 1).trim();
	const tokens = (hash < 0 ? line : line.slice(0, hash)).split(/\s+/).filter((t) => t !== '');
	const sample: QuickSample = { station: null, event: null, instrument: null, readings: [], note, asks: [] };
	const { station, ask } = takeStation(tokens, context);
	sample.station = station;
	if (ask) sample.asks.push(ask);
	sample.event = parseQuickEvent(tokens.join(' '));
	if (sample.event) {
		if (sample.event.unclear !== null) sample.asks.push({ about: 'amount', word: sample.event.unclear });
		if (sample.event.kind === 'note' && sample.event.note === '') sample.asks.push({ about: 'value' });
		return sample;
	}
	sample.instrument = takeInstrument(tokens, context);
	let word: Quantity | null = null;
	for (let i = 0; i < tokens.length; i++) {
		const token = tokens[i]!;
		const glued = /^([a-z]+\d?)[:=]?([-+.,\d].*)$/i.exec(token);
		if (Object.hasOwn(WORDS, token.toLowerCase().replace(/[:=]$/, ''))) {
			word = WORDS[token.toLowerCase().replace(/[:=]$/, '')]!;
			continue;
		}
		const text = glued && Object.hasOwn(WORDS, glued[1]!.toLowerCase()) ? glued[2]! : token;
		if (text !== token) word = WORDS[glued![1]!.toLowerCase()]!;
		const next = tokens[i + 1];
		let parsed = parseTyped(text);
		if (
			parsed.ok &&
			parsed.value.unit === null &&
			next !== undefined &&
			unitWord(next) !== undefined &&
			!(next.length === 1 && /^[ck]$/i.test(next) && /^[\d.,]/.test(tokens[i + 2] ?? ''))
		) {
			parsed = parseTyped(text + next);
			i++;
		}
		if (!parsed.ok) {
			sample.asks.push({ about: 'word', word: token });
			continue;
		}
		addValue(sample, parsed.value, word, context);
		word = null;
	}
	if (sample.readings.length === 0 && !sample.asks.some((a) => a.about === 'word' || a.about === 'ppm-scale'))
		sample.asks.push({ about: 'value' });
	return sample;
}

function addValue(sample: QuickSample, typed: TypedValue, word: Quantity | null, context: QuickContext): void {
	const fromUnit = typed.unit === null ? null : quantityOfUnit(typed.unit);
	const quantity =
		word === 'ec' && fromUnit === 'tds'
			? 'tds'
			: (word ??
				fromUnit ??
				BARE.find((q) => !sample.readings.some((r) => r.quantity === q || (q === 'ec' && r.quantity === 'tds'))) ??
				null);
	if (quantity === null) {
		sample.asks.push({ about: 'word', word: typed.digits });
		return;
	}
	let unit: Unit | null = typed.unit === 'ppm' ? null : typed.unit;
	if (quantity === 'tds' && (unit === null || unit === ('ppm' as Unit))) {
		const scaled = context.instruments.filter((i) => i.ppmScale !== null);
		const own =
			scaled.find((i) => i.code === sample.instrument) ??
			(sample.instrument === null && scaled.length === 1 ? scaled[0] : undefined);
		if (!own) {
			sample.asks.push({ about: 'ppm-scale' });
			return;
		}
		unit = `ppm${own.ppmScale!}`;
		sample.instrument ??= own.code;
	}
	unit ??=
		quantity === 'ec' || quantity === 'substrate_ec'
			? context.ecUnit
			: quantity === 'temp' || quantity === 'air_temp'
				? context.tempUnit
				: (CANONICAL_WHEN_BARE[quantity] ?? QUANTITY[quantity].canonical);
	if (quantity === 'ec' && unit.startsWith('ppm'))
		sample.readings.push({ quantity: 'tds', digits: typed.digits, unit });
	else sample.readings.push({ quantity, digits: typed.digits, unit });
}
