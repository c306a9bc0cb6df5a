import { QUANTITY } from '@/core/quantity';
import type { ReadingProblem } from '@/core/reading/from-text';
import type { Refused } from '@/core/reading/stream';

/** What was wrong with what was written, without a full stop: a file puts the column before it, a form the field. */
export function readingProblem(p: ReadingProblem): string {
	const text = `“${p.text.slice(0, 40)}”`;
	switch (p.code) {
		case 'no-value':
			return 'has no value';
		case 'not-a-number':
			return `${text} is not a number`;
		case 'beyond-any-instrument':
			return `${text} is beyond any instrument`;
		case 'not-a-quantity':
			return `${text} is not a quantity; use ph, ec, tds, temp, …`;
		case 'not-a-unit':
			return `${text} is not a unit of the readings file`;
		case 'wrong-unit':
			return `${p.quantity ? QUANTITY[p.quantity].name : 'It'} is not measured in ${p.text}`;
		case 'ppm-without-scale':
			return 'ppm without its scale: write ppm500, ppm640 or ppm700, or give the instrument its scale';
		case 'not-a-temperature':
			return `${p.text} °C is no temperature of water`;
		case 'share-without-temperature':
			return 'oxygen in % wants the temperature of the water (0 to 40 °C) beside it, or write it in mg/L';
		case 'not-a-wait':
			return `${text} is not a number of seconds`;
	}
}

/** Why messages of a meter were left out, after their number. */
export const REFUSED_WORDS: Record<Refused, string> = {
	unreadable: 'not numbers that a meter can show',
	repeated: 'the same moment twice',
	'back-in-time': 'from before the one ahead of them: the meter’s clock jumped back',
	flood: 'faster than a display can be read; one in a tenth of a second is kept',
};
