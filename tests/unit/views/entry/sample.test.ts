import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { waitingEntries } from '@/views/data/queue';
import { type DraftSample, PAGE, save } from '@/views/entry/sample';

const posted: { url: string; body: { station: string; value: string }[] }[] = [];
beforeEach(() => {
	vi.stubGlobal('fetch', async (url: string, init: { body: string }) => {
		posted.push({ url, body: JSON.parse(init.body) });
		return Response.json({ samples: [] }, { status: 201 });
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	posted.length = 0;
});
const draft = (station: string, digits: string, more: Partial<DraftSample> = {}): DraftSample => ({
	station,
	instrument: 'plum',
	values: [
		{ quantity: 'ph', digits, unit: 'pH' },
		{ quantity: 'temp', digits: '68', unit: 'F' },
	],
	note: '',
	at: Date.UTC(2026, 6, 14, 9),
	source: 'bench',
	...more,
});

describe('a sample that is saved', () => {
	it('goes as it was typed, with the temperature of its own beside what is read at it', async () => {
		expect(await save([draft('pond', '5.80', { round: 4, waitS: 30, skipped: ['rinse'] })])).toMatchObject({
			kind: 'stored',
		});
		expect(posted[0]!.url).toBe(`/api/v1/readings?source=bench&page=${PAGE}&round=4`);
		expect(posted[0]!.body).toMatchObject([
			{
				time: '2026-07-14T09:00:00.000Z',
				station: 'pond',
				instrument: 'plum',
				value: '5.80',
				unit: 'pH',
				temp_c: 20,
				wait_s: 30,
				skipped: ['rinse'],
			},
			{ quantity: 'temp', value: '68', unit: 'F', temp_c: null },
		]);
		expect(await waitingEntries()).toEqual([]);
	});
	it('that cannot be stored now is kept, named for the person who entered it', async () => {
		vi.stubGlobal('fetch', async () => Promise.reject(new TypeError('failed')));
		expect(await save([draft('pond', '5.8'), draft('mix', '6')])).toMatchObject({
			kind: 'kept',
			message: expect.stringContaining('Nothing is lost'),
		});
		expect(await waitingEntries()).toMatchObject([
			{ words: 'pond pH 5.8, Temperature 68; mix pH 6, Temperature 68', refused: null },
		]);
	});
});
