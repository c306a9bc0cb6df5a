import { parseTyped, type Unit } from '../quantity';
import type { EventKind } from './model';

/**
 * What was done to the water, typed as one would say it after the station: `+65L`, `acid 38 ml`, `changed`, `drained 12 L`,
 * `note yellow tips`. Null where the words are no event; the quick line then looks for readings.
 */
export interface QuickEvent {
	kind: EventKind;
	amount: number | null;
	unit: Unit | 'g' | 'kg' | 'min' | 'drops' | '';
	/** Of what: words after the amount. */
	product: string;
	note: string;
	/** A word that stands where an amount should. */
	unclear: string | null;
}

const WORDS: readonly (readonly [RegExp, EventKind])[] = [
	[/^(\+|water|added|add|top(ped)?(-|\s)?up|filled)(?=$|[\s\d.,])/, 'water_added'],
	[/^(acid|ph(-|\s)?down)(?=$|\s)/, 'acid_added'],
	[/^(base|alkali|ph(-|\s)?up)(?=$|\s)/, 'base_added'],
	[/^(feed|fed|nutrients?|fertili[sz]er)(?=$|\s)/, 'nutrient_added'],
	[/^(changed|change|renewed|refilled)(?=$|\s)/, 'solution_changed'],
	[/^(drained|emptied|bled)(?=$|\s)/, 'drained'],
	[/^(irrigated|watered)(?=$|\s)/, 'irrigated'],
	[/^(cleaned|probe cleaned)(?=$|\s)/, 'probe_cleaned'],
	[/^(probe out|out of (the )?water)(?=$|\s)/, 'probe_out'],
	[/^lights on(?=$|\s)/, 'lights_on'],
	[/^lights off(?=$|\s)/, 'lights_off'],
	[/^note(?=$|[\s:])/, 'note'],
];
/** Units of an amount that no reading has. */
const OWN_UNITS: Record<string, QuickEvent['unit']> = {
	g: 'g',
	kg: 'kg',
	min: 'min',
	minutes: 'min',
	drops: 'drops',
	drop: 'drops',
};
/** What is poured is mostly said in this, where no unit was typed; of the rest nothing is guessed. */
const BARE: Partial<Record<EventKind, QuickEvent['unit']>> = {
	water_added: 'L',
	solution_changed: 'L',
	drained: 'L',
	acid_added: 'mL',
	base_added: 'mL',
	nutrient_added: 'mL',
	irrigated: 'min',
};

function amountOf(text: string): { amount: number; unit: QuickEvent['unit'] | null; rest: string } | null {
	const m = /^([\d.,]+)\s*([a-zµ_/%]*)\s*(.*)$/i.exec(text);
	if (!m) return null;
	const number = parseTyped(m[1]!);
	if (!number.ok || number.value.kind !== 'number') return null;
	const word = m[2]!.toLowerCase();
	if (word === '') return { amount: number.value.value, unit: null, rest: m[3]! };
	if (Object.hasOwn(OWN_UNITS, word)) return { amount: number.value.value, unit: OWN_UNITS[word]!, rest: m[3]! };
	const parsed = parseTyped(`1 ${word}`);
	const unit = parsed.ok ? parsed.value.unit : null;
	// A word that is no unit of a volume belongs to the product.
	return unit === 'L' || unit === 'mL' || unit === 'gal'
		? { amount: number.value.value, unit, rest: m[3]! }
		: { amount: number.value.value, unit: null, rest: `${m[2]} ${m[3]}`.trim() };
}

/**
 * @param words what was typed after the station
 * @example parseQuickEvent('+65L').amount // 65
 * @example parseQuickEvent('acid 38 ml').kind // 'acid_added'
 * @example parseQuickEvent('ph 5.8') // null
 */
export function parseQuickEvent(words: string): QuickEvent | null {
	const said = words.trim();
	const found = WORDS.find(([pattern]) => pattern.test(said.toLowerCase()));
	if (!found) return null;
	const [pattern, kind] = found;
	const rest = said.slice(pattern.exec(said.toLowerCase())![0].length).trim();
	const plain = { kind, amount: null, unit: '' as const, product: '', note: '', unclear: null };
	if (kind === 'note') return { ...plain, note: rest.replace(/^:\s*/, '') };
	if (rest === '') return kind === 'water_added' && said === '+' ? { ...plain, unclear: '+' } : plain;
	const amount = amountOf(rest.replace(/^(with|of)\s+/i, ''));
	if (!amount) return BARE[kind] ? { ...plain, product: rest.replace(/^(with|of)\s+/i, '') } : { ...plain, note: rest };
	const unit = amount.unit ?? BARE[kind] ?? null;
	if (unit === null) return { ...plain, unclear: rest };
	return { ...plain, amount: amount.amount, unit, product: amount.rest.replace(/^of\s+/i, '') };
}
