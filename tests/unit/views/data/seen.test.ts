import { expect, it } from 'vitest';
import { onlyChanged } from '@/views/data/seen';

it('sends what is other, what names it, and what stood there; what is not said stays', () => {
	const before = { code: 'pond', kind: 'reservoir', name: 'Pond', volume: 2400 as number | null, note: 'x' };
	const after = { ...before, volume: null, note: undefined as string | undefined } as typeof before;
	expect(onlyChanged(before, after, ['code', 'kind'])).toEqual({
		code: 'pond',
		kind: 'reservoir',
		volume: null,
		seen: { code: 'pond', kind: 'reservoir', volume: 2400 },
	});
});
it('another order of keys, and a null where nothing was, are no change', () => {
	const before = { code: 'pond', ranges: { ph: [5.5, 6.5], ec: [1500, 2500] } as Record<string, number[] | null> };
	const after = { code: 'pond', ranges: { do: null, ec: [1500, 2500], ph: [5.5, 6.5] } };
	expect(onlyChanged(before, after, ['code'])).toEqual({ code: 'pond', seen: { code: 'pond' } });
	const wider = onlyChanged(before, { code: 'pond', ranges: { ...before.ranges, ph: [5.5, 7] } }, ['code']);
	expect(wider.seen).toEqual(before);
});
it('what is new is sent whole', () => {
	expect(onlyChanged<object>(undefined, { code: 'tap' }, [])).toEqual({ code: 'tap' });
});
