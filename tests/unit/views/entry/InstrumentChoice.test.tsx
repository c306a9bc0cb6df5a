import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import { seenAt } from '@/core/judge/memory';
import type { SiteView } from '@/core/reading/site-view';
import { heldInHand, InstrumentChoice, otherInstrument, usualInstrument } from '@/views/entry/InstrumentChoice';
import { draw, nothing } from '../../../helpers/drawn';
import { MINUTE, NEXT, pen, practised, reading } from '../../../helpers/small-site';

const tool = (code: string, quantities: object, kind = 'combined') =>
	({
		info: { ...pen(code)[1], quantities },
		name: code,
		kind,
	}) as unknown as SiteView['instruments'][number];
const instruments = [
	tool('post', { ph: {}, ec: {} }, 'sensor_node'),
	tool('brass', { ph: {} }, 'ph'),
	tool('minnow', { tds: {} }, 'ec'),
	tool('plum', { ph: {}, ec: {} }),
];
/** What the checks have seen of a pond: twelve mornings by one meter, then what is given. */
const seen = (...more: ReturnType<typeof reading>[]): SiteView => {
	const engine = practised();
	for (const r of more) engine.take([r]);
	return {
		instruments,
		stations: [{ info: { code: 'pond' }, seen: seenAt(engine.memory, 'pond') }],
	} as unknown as SiteView;
};

describe('what a sample is measured with', () => {
	it('is offered without the nodes that measure by themselves', () => {
		expect(heldInHand(seen()).map((i) => i.info.code)).toEqual(['brass', 'minnow', 'plum']);
		const choice = draw(
			createElement(InstrumentChoice, {
				label: 'Measured with',
				site: seen(),
				value: 'plum',
				unsaid: true,
				onChange: nothing,
			}),
		);
		expect(choice.match(/<option/g)).toHaveLength(4);
		expect(choice).not.toContain('post');
		expect(choice).toContain('not said');
	});
	it('is what was last used here, whatever a node has read since', () => {
		expect(usualInstrument(seen(), 'pond', null)).toBe('plum');
		const later = seen(
			reading(NEXT, 'pond', 'ph', '5.90', 'pH', { instrument: 'brass' }),
			reading(NEXT + MINUTE, 'pond', 'ec', '1800', 'uS/cm', { instrument: 'post' }),
		);
		expect(usualInstrument(later, 'pond', null)).toBe('brass');
	});
	it('for one quantity only what can measure it; TDS answers for EC', () => {
		const later = seen(reading(NEXT, 'pond', 'ph', '5.90', 'pH', { instrument: 'brass' }));
		expect(usualInstrument(later, 'pond', 'ec')).toBe('plum');
		const tds = seen(reading(NEXT, 'pond', 'tds', '900', 'ppm500', { instrument: 'minnow' }));
		expect(usualInstrument(tds, 'pond', 'ec')).toBe('minnow');
	});
	it('where nothing was measured yet the first that can', () => {
		expect(usualInstrument(seen(), 'gutters', 'ph')).toBe('brass');
		expect(usualInstrument(seen(), 'gutters', 'ec')).toBe('minnow');
	});
	it('a second opinion is by another one, as long as there is one', () => {
		expect(otherInstrument(seen(), ['plum'])).toBe('brass');
		expect(otherInstrument(seen(), ['plum', 'brass'])).toBe('minnow');
		// A node is first in the list, but nobody dips it.
		expect(otherInstrument(seen(), ['plum', 'brass', 'minnow'])).toBe('brass');
	});
});
