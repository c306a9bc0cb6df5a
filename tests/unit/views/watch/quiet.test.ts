import { describe, expect, it } from 'vitest';
import { quietFrom, quietText } from '@/views/watch/quiet';

describe('quiet hours as people write them', () => {
	it.each([
		['22:00–06:30', { from: 1320, to: 390 }],
		['22-6', { from: 1320, to: 360 }],
		['22.15 to 6.00', { from: 1335, to: 360 }],
		['', null],
		['22:00', undefined],
		['25:00–6', undefined],
		['6–6', undefined],
		['tonight', undefined],
	])('“%s”', (text, hours) => {
		expect(quietFrom(text)).toEqual(hours);
	});
	it('come back as they are', () => {
		expect(quietFrom(quietText({ from: 1320, to: 390 }))).toEqual({ from: 1320, to: 390 });
		expect(quietText(null)).toBe('');
	});
});
