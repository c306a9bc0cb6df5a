import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTyped } from '@/core/quantity';

describe('parsing what people type', () => {
	it.each([
		['1,9', '1.9', null],
		['1.9', '1.9', null],
		[' 1.9 mS ', '1.9', 'mS/cm'],
		['950ppm', '950', 'ppm'],
		['950 ppm700', '950', 'ppm700'],
		['21.4C', '21.4', 'C'],
		['70 °F', '70', 'F'],
		['.5', '.5', null],
		['5.80', '5.80', null],
		['1920µS', '1920', 'uS/cm'],
	])('%s', (text, digits, unit) => {
		expect(parseTyped(text)).toMatchObject({ ok: true, value: { kind: 'number', digits, unit } });
	});
	it('reads an interval of a drop kit', () => {
		expect(parseTyped('5.0..6.0')).toMatchObject({
			ok: true,
			value: { kind: 'interval', low: 5, high: 6, digits: '5.0..6.0' },
		});
		expect(parseTyped('6..5')).toMatchObject({ ok: false, problem: { code: 'reversed-interval', near: '6..5' } });
	});
	it.each(['', 'abc', 'NaN', 'Infinity', '1e309', '5.8.1', '1,850.5', '--3', '5 8', '0x10', '１２'])(
		'refuses %j',
		(text) => {
			expect(parseTyped(text).ok).toBe(false);
		},
	);
	it('never gives a number that is not finite', () => {
		fc.assert(
			fc.property(fc.string(), (text) => {
				const r = parseTyped(text);
				return (
					!r.ok ||
					(r.value.kind === 'number'
						? Number.isFinite(r.value.value)
						: Number.isFinite(r.value.low) && Number.isFinite(r.value.high))
				);
			}),
		);
	});
});
