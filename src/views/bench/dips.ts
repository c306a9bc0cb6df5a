import type { Engine } from '@/core/judge/engine';
import { QUANTITIES, type Quantity, seriesQuantity } from '@/core/quantity';
import type { Reading, Verdict } from '@/core/reading/model';
import type { DisplayUnits, SiteView } from '@/core/reading/site-view';
import { fixedValue } from '../entry/fix';
import { usualInstrument } from '../entry/InstrumentChoice';
import type { Draft, Texts } from './draft';
import { type FieldValue, fieldMeter, understandField } from './understand';

export const USUAL: readonly Quantity[] = ['ph', 'ec', 'temp'];

/** One dip of the sample, with what its fields hold. */
export interface Dip {
	instrument: string | null;
	texts: Texts;
	/** Before the names of its fields; the first dip has none. */
	prefix: string;
	values: Partial<Record<Quantity, FieldValue>>;
	/** What each of its fields was measured with. */
	by: Partial<Record<Quantity, string | null>>;
}
/** One field that holds a value. */
export interface Entry {
	row: number;
	q: Quantity;
	v: Extract<FieldValue, { state: 'value' }>;
	instrument: string | null;
}
type Meter = SiteView['instruments'][number];

/** What is measured at a station beside pH, EC and temperature: by its rhythm, and as asked for. */
export function otherFields(draft: Draft, site: SiteView): Quantity[] {
	const measured = site.stations.find((s) => s.info.code === draft.station)?.measured ?? [];
	const typed = QUANTITIES.filter((q) => draft.texts[q]);
	return [...new Set([...measured, ...draft.more, ...typed])].filter((q) => !USUAL.includes(q) && q !== 'tds');
}

/** What a field of the first dip is measured with: pens for what pens measure, for the rest what was used last or can. */
const meterOfField = (draft: Draft, site: SiteView, q: Quantity): string | null =>
	USUAL.includes(q) ? draft.instrument : (draft.by[q] ?? usualInstrument(site, draft.station, q));

/** The dips of a draft, understood by what this station is expected to show. */
export function dipsOf(draft: Draft, site: SiteView, engine: Engine, at: number): Dip[] {
	const understood = (fields: readonly Quantity[], texts: Texts, by: Dip['by']): Dip['values'] =>
		Object.fromEntries(
			fields.map((q) => [
				q,
				understandField(
					q,
					texts[q] ?? '',
					fieldMeter(site, by[q] ?? null, q, at),
					site.units,
					engine.expect(draft.station, seriesQuantity(q), at),
				),
			]),
		);
	return [{ instrument: draft.instrument, texts: draft.texts }, ...draft.others].map((r, i) => {
		const fields = i === 0 ? [...USUAL, ...otherFields(draft, site)] : USUAL;
		const by = Object.fromEntries(fields.map((q) => [q, i === 0 ? meterOfField(draft, site, q) : r.instrument]));
		return { ...r, prefix: i === 0 ? '' : String(i + 1), values: understood(fields, r.texts, by), by };
	});
}

/** Every field that holds a value, dip by dip. */
export const entriesOf = (dips: readonly Dip[]): Entry[] =>
	dips.flatMap((r, row) =>
		QUANTITIES.flatMap((q) => {
			const v = r.values[q];
			return v?.state === 'value' ? [{ row, q, v, instrument: r.by[q] ?? null }] : [];
		}),
	);

const unitSuffix = (unit: string): string => (unit === 'mS/cm' ? 'mS' : unit === 'uS/cm' ? 'uS' : unit);

/** What the fields are to hold once a suggestion is taken. Swapped values are exchanged together: one alone leaves the other wrong. */
export function fixesOf(
	entries: readonly Entry[],
	verdicts: readonly Verdict[],
	index: number,
	units: DisplayUnits,
): { row: number; q: Quantity; text: string }[] {
	const e = entries[index]!;
	const { suggested, cause } = verdicts[index]!.deciding!;
	if (cause === 'swapped')
		return entries.flatMap((other, i) => {
			const s = verdicts[i]!.deciding;
			return other.row === e.row && s?.cause === 'swapped' && s.suggested !== null
				? [{ row: other.row, q: other.q, text: fixedValue(s.suggested, other.v.unit, '0.00') }]
				: [];
		});
	const inOtherUnit = cause === 'unit-slip' || cause === 'scale-mismatch';
	const unit = inOtherUnit && e.q === 'ec' ? units.ec : e.v.unit;
	const suffix = inOtherUnit && e.q === 'ec' ? unitSuffix(unit) : '';
	return [{ row: e.row, q: e.q, text: `${fixedValue(suggested!, unit, e.v.digits)}${suffix}` }];
}

/** What an instrument showed without the error that is known of its probe today, and how well that is known. */
export function worthOf(
	quantity: Quantity,
	meter: Meter | undefined,
	u: number,
	value: number,
): { value: number; u: number } {
	const q = seriesQuantity(quantity);
	const probe = q === 'ph' || q === 'ec' ? meter?.probes[q] : undefined;
	if (!probe) return { value, u };
	const inUnits = (x: number) => (q === 'ph' ? x : (x / 100) * value);
	return { value: probe.told ? value - inUnits(probe.error) : value, u: Math.hypot(u, inUnits(probe.u)) };
}

/** What a kit leaves open: between two colours of its card, or a drop more or less; where one number was typed, its uncertainty. */
const intervalOf = ({ value, halfWidth }: Reading, u: number): readonly [number, number] => [
	value - Math.max(halfWidth, u),
	value + Math.max(halfWidth, u),
];

/** What each instrument says of a quantity that more than one dip measured. */
export const opinionsOf = (
	entries: readonly Entry[],
	readings: readonly Reading[],
	verdicts: readonly Verdict[],
	meterOf: (code: string | null) => Meter | undefined,
) =>
	(['ph', 'ec'] as const).flatMap((q) => {
		const witnesses = entries.flatMap((e, i) => {
			if (seriesQuantity(e.v.quantity) !== q) return [];
			const value = readings[i]!.value;
			const by = meterOf(e.instrument);
			return [
				{
					name: by?.name ?? 'the unnamed meter',
					...worthOf(e.v.quantity, by, verdicts[i]!.u, value),
					interval: by?.kind === 'drop_kit' ? intervalOf(readings[i]!, verdicts[i]!.u) : null,
					lastCheckedAt: by?.probes[q]?.lastAt ?? null,
					record: by?.probes[q]?.record ?? { passed: 0, failed: 0 },
				},
			];
		});
		return witnesses.length > 1 ? [{ q, witnesses }] : [];
	});
