import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed } from '@/service/changed';

interface Tank {
	code: string;
	litres: number | null;
	note: string;
}
const usual: Tank = { code: 'pond', litres: null, note: '' };

describe('what is changed of what is there', () => {
	it('what is not given stays, what is given counts, null is given', () => {
		const before: Tank = { code: 'pond', litres: 2400, note: 'deep' };
		expect(changed(usual, before, { note: 'shallow' })).toEqual({ ...before, note: 'shallow' });
		expect(changed(usual, before, { litres: null, note: undefined })).toEqual({ ...before, litres: null });
	});
	it('is as usual where there was nothing before', () => {
		expect(changed(usual, undefined, { note: 'new' })).toEqual({ ...usual, note: 'new' });
	});
	it('changes neither what was before nor what is usual, and saving the same again changes nothing (property)', () => {
		const tank = fc.record({ code: fc.string(), litres: fc.option(fc.double({ noNaN: true })), note: fc.string() });
		fc.assert(
			fc.property(
				tank,
				fc.record({ litres: fc.option(fc.integer()), note: fc.string() }, { requiredKeys: [] }),
				(before, change) => {
					const kept = structuredClone(before);
					const once = changed(usual, before, change);
					expect(changed(usual, once, change)).toEqual(once);
					expect(before).toEqual(kept);
					expect(usual).toEqual({ code: 'pond', litres: null, note: '' });
				},
			),
		);
	});
});
