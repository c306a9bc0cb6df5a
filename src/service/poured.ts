import type { Filling } from '@/core/mix/feedings';
import { toCanonical, unitNamed } from '@/core/quantity';
import type { EventRecord } from '@/store/events';

/** Litres of a logged amount; null where it is none of volume. */
export function inLitres(amount: number | null, unitText: string): number | null {
	if (amount === null) return null;
	if (unitText === 'mL') return amount / 1000;
	const unit = unitNamed(unitText);
	return unit === 'L' || unit === 'gal' ? toCanonical(amount, unit) : null;
}

/** Millilitres of a logged dose; a bare number is taken for millilitres. */
export const inMl = (amount: number | null, unitText: string): number | null => {
	if (unitText === '') return amount;
	const litres = inLitres(amount, unitText);
	return litres === null ? null : 1000 * litres;
};

export const fillingsOf = (events: readonly EventRecord[]): Filling[] =>
	events.flatMap((e) =>
		e.kind === 'solution_changed' || e.kind === 'water_added' || e.kind === 'drained'
			? [{ at: e.at, kind: e.kind, litres: inLitres(e.amount, e.unitText) }]
			: [],
	);
