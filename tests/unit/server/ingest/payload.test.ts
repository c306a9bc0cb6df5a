import { describe, expect, it } from 'vitest';
import { understood } from '@/server/ingest/payload';

describe('a payload of a broker', () => {
	it('is a number in the canonical unit of its quantity, or says its own', () => {
		expect(understood('1712', 'ec', 0)).toEqual({ at: '1970-01-01T00:00:00Z', unit: 'uS/cm', value: 1712 });
		expect(understood('{"value":1.7,"unit":"mS/cm","at":"2026-07-01T00:00:00Z"}', 'ec', 0)).toEqual({
			at: '2026-07-01T00:00:00Z',
			unit: 'mS/cm',
			value: 1.7,
		});
		expect(understood('{"value":5.9}', 'ph', 0)).toMatchObject({ unit: 'pH', value: 5.9 });
	});
	it.each(['', 'low', '[1]', 'null', '"5"', '{'])('“%s” is none', (text) => {
		expect(understood(text, 'ph', 0)).toBeNull();
	});
});
