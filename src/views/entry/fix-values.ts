import type { StoredReading } from '@/contract/readings';
import { parseTyped, type Quantity, seriesQuantity, unitNamed } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import { parseWhen, typedWhen } from '@/core/quantity/when';
import { unitsFor } from '@/core/reading/drops';
import { typedProblem } from '@/words/en/value';
import { whenProblem } from '@/words/en/when';

/** What a person may say was wrong with a reading. */
export interface FixValues {
	value: string;
	unit: string;
	station: string;
	instrument: string;
	when: string;
	note: string;
	/** Where it was, with what and when was wrong of everything that was dipped with it. */
	whole: boolean;
	reason: string;
}
type Was = Pick<StoredReading, 'value' | 'unit' | 'station' | 'instrument' | 'time' | 'note' | 'quantity'>;

/** A reading as it stands, to be mended. */
export const fixOf = (r: Was, zone: string): FixValues => ({
	value: r.value,
	unit: r.unit,
	station: r.station,
	instrument: r.instrument ?? '',
	when: typedWhen(Date.parse(r.time), zone),
	note: r.note,
	whole: true,
	reason: '',
});

/** Units that a reading may be mended to, its own among them; TDS and EC are one. */
export const unitsToFix = (quantity: Quantity, own: string): string[] => {
	const units: string[] = unitsFor(seriesQuantity(quantity));
	return units.includes(own) ? units : [own, ...units];
};

export interface FixBody {
	value?: string;
	unit?: string;
	quantity?: Quantity;
	station?: string;
	instrument?: string | null;
	time?: string;
	note?: string;
	whole_sample?: boolean;
	reason: string;
}

/** What is sent: only what was changed; or what is wrong with which field. */
export function readFix(
	v: FixValues,
	r: Was,
	now: number,
	zone: string,
): { ok: true; body: FixBody } | { ok: false; field: 'value' | 'when'; message: string } {
	const was = fixOf(r, zone);
	const body: FixBody = { reason: v.reason.trim() };
	const typed = parseTyped(v.value);
	if (!typed.ok) return { ok: false, field: 'value', message: typedProblem(typed.problem) };
	// A unit that was typed behind the number counts more than the one that was chosen.
	const own = typed.value.unit === null || typed.value.unit === 'ppm' ? null : typed.value.unit;
	const unit = own ?? unitNamed(v.unit) ?? null;
	if (typed.value.digits !== r.value) body.value = typed.value.digits;
	if (unit !== null && unit !== r.unit) {
		body.unit = unit;
		// ppm of a meter are EC by another name.
		const quantity = seriesQuantity(r.quantity) === 'ec' ? (unit.startsWith('ppm') ? 'tds' : 'ec') : r.quantity;
		if (quantity !== r.quantity) body.quantity = quantity;
	}
	if (v.when.trim() !== was.when) {
		const when = parseWhen(v.when, now, zone);
		if (!when.ok) return { ok: false, field: 'when', message: whenProblem(when.problem) };
		body.time = formatTime(when.value);
	}
	if (v.station !== was.station) body.station = v.station;
	if (v.instrument !== was.instrument) body.instrument = v.instrument || null;
	if (v.note.trim() !== was.note) body.note = v.note.trim();
	const ofSample = body.time !== undefined || body.station !== undefined || body.instrument !== undefined;
	if (v.whole && ofSample) body.whole_sample = true;
	return { ok: true, body };
}

/** Whether anything would be different. */
export const changesSomething = (b: FixBody): boolean => Object.keys(b).some((k) => k !== 'reason');
