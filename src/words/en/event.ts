import type { EventDoubt } from '@/core/reading/event-doubt';
import type { EventKind } from '@/core/reading/model';

/** What was done to the water, and the unit that its amount is usually in. */
export const EVENT_WORDS: Record<EventKind, readonly [words: string, unit: string]> = {
	water_added: ['water added', 'L'],
	nutrient_added: ['nutrient added', 'mL'],
	acid_added: ['acid added', 'mL'],
	base_added: ['base added', 'mL'],
	solution_changed: ['solution changed', 'L'],
	sampled: ['sampled', ''],
	probe_cleaned: ['probe cleaned', ''],
	probe_out: ['probe out of the water', ''],
	calibrated: ['calibrated', ''],
	irrigated: ['irrigated', 'min'],
	drained: ['drained', 'L'],
	lights_on: ['lights on', ''],
	lights_off: ['lights off', ''],
	note: ['note', ''],
};

const plain = (v: number): string => v.toLocaleString('en-GB', { maximumSignificantDigits: 3 });
/** An amount as it is said: to a part in ten thousand, which no cylinder tells. */
export const amountWords = (v: number): string => String(Number(v.toPrecision(4)));

/** What is asked about an amount before it is kept. */
export function eventDoubtWords(doubt: EventDoubt, station: string): string {
	switch (doubt.code) {
		case 'more-than-it-holds':
			return `${station} holds ${plain(doubt.holdsL)} L: is that amount right?`;
		case 'strong-dose':
			return `That is ${plain(doubt.perL)} ${doubt.per} in each litre of ${station}; more than ${doubt.usualMost} is rare. Is that amount right?`;
		case 'too-long':
			return `That is a watering of ${plain(doubt.hours)} hours. Is that right?`;
	}
}

interface Done {
	kind: EventKind;
	amount: number | null;
	unit: string;
	product: string;
	note: string;
}

/** What was done, in a few words: "acid added 12.5 mL, citric". */
export const doneWords = (e: Done): string =>
	[
		`${EVENT_WORDS[e.kind][0]}${e.amount === null ? '' : ` ${amountWords(e.amount)} ${e.unit}`}`.trim(),
		e.product,
		e.note,
	]
		.filter((x) => x !== '')
		.join(', ');

/** The same with where: "Pond: acid added 12.5 mL, citric". */
export const eventLine = (station: string, e: Done): string => `${station}: ${doneWords(e)}`;
