import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type DraftSample, PAGE, save, sendWaiting, waiting } from '@/views/entry/sample';

/** What was typed while the server was away waits on this device, in order, until it is stored. */
let server: 'well' | 'away' | 'refuses' = 'well';
const posted: { url: string; body: { station: string; value: string }[] }[] = [];
beforeEach(() => {
	const kept = new Map<string, string>();
	vi.stubGlobal('localStorage', {
		getItem: (k: string) => kept.get(k) ?? null,
		setItem: (k: string, v: string) => void kept.set(k, v),
	});
	vi.stubGlobal('fetch', async (url: string, init: { body: string }) => {
		if (server === 'away') throw new TypeError('failed');
		if (server === 'refuses')
			return Response.json({ detail: 'There is no such station.', errors: [] }, { status: 422 });
		posted.push({ url, body: JSON.parse(init.body) });
		return Response.json({ samples: [] }, { status: 201 });
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	server = 'well';
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
		expect(waiting()).toEqual([]);
	});
	it('waits while the server is away, and is sent in the order it was typed', async () => {
		server = 'away';
		expect(await save([draft('pond', '5.8')])).toMatchObject({
			kind: 'kept',
			message: expect.stringContaining('kept here'),
		});
		expect(await save([draft('mix', '5.9')])).toMatchObject({ kind: 'kept' });
		expect(await sendWaiting()).toBe(0);
		expect(waiting()).toHaveLength(2);
		server = 'well';
		expect(await sendWaiting()).toBe(2);
		expect(posted.map((p) => p.body[0]!.station)).toEqual(['pond', 'mix']);
		expect(waiting()).toEqual([]);
	});
	it('what is refused is said, and never put into the queue as if it could be sent later', async () => {
		server = 'refuses';
		await expect(save([draft('attic', '5.8')])).rejects.toThrow('no such station');
		expect(waiting()).toEqual([]);
	});
	it('a refusal stops the queue and keeps what waits', async () => {
		server = 'away';
		await save([draft('pond', '5.8')]);
		server = 'refuses';
		await expect(sendWaiting()).rejects.toThrow('no such station');
		expect(waiting()).toHaveLength(1);
	});
});
