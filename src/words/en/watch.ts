import { QUANTITY, type SeriesQuantity } from '@/core/quantity';
import type { WatchKind } from '@/core/watch/condition';

/** What a condition is called, before there is anything to say of it. */
export const WATCH_WORDS: Record<WatchKind, string> = {
	'out-of-range': 'out of its range',
	'will-leave': 'about to leave its range',
	silent: 'a sensor node is silent',
	'out-of-water': 'a probe is out of the water',
	doubtful: 'a sensor is doubtful for long',
	'below-level': 'the tank is low',
};

/** What is watched, in a line. */
export function conditionWords(c: {
	kind: WatchKind;
	quantity: SeriesQuantity | null;
	minutes: number | null;
	hours: number | null;
	least: number | null;
}): string {
	const what = c.quantity ? `${QUANTITY[c.quantity].name} ` : '';
	switch (c.kind) {
		case 'out-of-range':
			return `${what}out of its range for more than ${c.minutes} min`;
		case 'will-leave':
			return `${what}will leave its range within ${c.hours} h`;
		case 'silent':
			return `silent for more than ${c.minutes} min`;
		case 'out-of-water':
			return 'a probe out of the water';
		case 'doubtful':
			return `${what}doubtful for more than ${c.minutes} min`;
		case 'below-level':
			return `${what}below ${c.least} ${c.quantity ? QUANTITY[c.quantity].canonical : ''}`;
	}
}

/**
 * What is told of an alert, in a sentence.
 * @param a values as they are shown, times as they are read
 */
export function alertWords(a: {
	kind: WatchKind;
	station: string;
	quantity: SeriesQuantity | null;
	value: string | null;
	limit: string | null;
	since: string;
	expected: string | null;
	ended: boolean;
}): string {
	const what = a.quantity ? QUANTITY[a.quantity].name : '';
	const named = what === 'pH' || what === 'EC' ? what : what.toLowerCase();
	if (a.ended)
		return {
			'out-of-range': `${a.station}: ${named} is back in its range.`,
			'will-leave': `${a.station}: ${named} is no longer about to leave its range.`,
			silent: `${a.station}: its sensors are heard again.`,
			'out-of-water': `${a.station}: the probe is back in the water.`,
			doubtful: `${a.station}: ${named} can be believed again.`,
			'below-level': `${a.station}: the tank is filled again.`,
		}[a.kind];
	switch (a.kind) {
		case 'out-of-range':
			return `${a.station}: ${named} has been out of its range since ${a.since}; it is ${a.value}, the limit ${a.limit}. Measure by hand before you correct it.`;
		case 'will-leave':
			return `${a.station}: ${named} comes to ${a.limit} around ${a.expected} if nothing is done.`;
		case 'silent':
			return `${a.station}: its sensors have said nothing since ${a.since}. Look at the node, its power and its network.`;
		case 'out-of-water':
			return `${a.station}: a probe has been out of the water since ${a.since}. An electrode that dries is spoilt: put it back, or into its cap.`;
		case 'doubtful':
			return `${a.station}: ${named} has been doubtful since ${a.since}. Measure by hand; Review says why.`;
		case 'below-level':
			return `${a.station}: the tank is low, ${a.value} where ${a.limit} should be at least. Look for a leak, a stuck valve or a dry pump.`;
	}
}
