import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiProblem } from '@/views/data/client';
import { enter, follow, sendWaiting, takeBack, tryAgain, waitingEntries } from '@/views/data/queue';

/** A server that stores what it is sent once under each key, and whose answers can be lost, slow, or refusals. */
type Mood = 'well' | 'away' | 'loses the answer' | 'refuses' | 'slow';
let mood: Mood = 'well';
const stored = new Map<string, string>();
const order: string[] = [];
const bodies: unknown[] = [];
beforeEach(() => {
	vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'], shouldAdvanceTime: true });
	vi.stubGlobal('fetch', async (_: string, init: { body: string; headers: Record<string, string> }) => {
		const key = init.headers['idempotency-key']!;
		const { note } = JSON.parse(init.body) as { note: string };
		bodies.push(JSON.parse(init.body));
		if (mood === 'away') throw new TypeError('failed');
		if (mood === 'slow') await new Promise((resolve) => setTimeout(resolve, 6000));
		if (mood === 'refuses' || note === 'bad')
			return Response.json({ detail: 'There is no such station.' }, { status: 422 });
		if (!stored.has(key)) order.push(note);
		stored.set(key, note);
		if (mood === 'loses the answer') throw new TypeError('failed');
		return Response.json({ id: [...stored.keys()].indexOf(key) }, { status: 201 });
	});
});
afterEach(async () => {
	mood = 'well';
	for (const e of await waitingEntries()) await takeBack(e.key);
	// What was planned for later has its turn.
	await vi.advanceTimersByTimeAsync(7000);
	vi.useRealTimers();
	vi.unstubAllGlobals();
	stored.clear();
	order.length = 0;
});
const log = (note: string) => enter('POST /events', { body: { station: 'pond', kind: 'note', note } }, note);
const words = async () => (await waitingEntries()).map((e) => [e.words, e.refused]);

describe('an entry', () => {
	it('is stored and told, and leaves nothing behind', async () => {
		expect(await log('fed')).toEqual({ kind: 'stored', answer: { id: 0 } });
		expect(await words()).toEqual([]);
	});
	it('whose answer is lost is stored once all the same', async () => {
		mood = 'loses the answer';
		expect(await log('fed')).toMatchObject({ kind: 'kept' });
		expect(await words()).toEqual([['fed', null]]);
		mood = 'well';
		await sendWaiting();
		expect([order, await words()]).toEqual([['fed'], []]);
	});
	it('whose answer takes six seconds is kept after four, and stored once', async () => {
		mood = 'slow';
		const entered = log('fed');
		await vi.advanceTimersByTimeAsync(4100);
		expect(await entered).toMatchObject({ kind: 'kept' });
		await vi.advanceTimersByTimeAsync(3000);
		await vi.waitFor(async () => expect([order, await words()]).toEqual([['fed'], []]), 10_000);
	});
	it('that waits takes its photo with it: sent after it, and at it', async () => {
		mood = 'away';
		const kept = await log('yellow tips');
		if (kept.kind !== 'kept') throw new Error('it should wait');
		expect(await follow(kept.key, { note: 'leaf.jpg', name: 'leaf.jpg' }, 'leaf.jpg')).toBe(true);
		mood = 'well';
		await sendWaiting();
		expect([order, await words()]).toEqual([['yellow tips', 'leaf.jpg'], []]);
		expect(bodies.at(-1)).toMatchObject({ name: 'leaf.jpg', event: 0 });
		// What is stored has no place to wait behind.
		expect(await follow(kept.key, { note: 'late.jpg' }, 'late.jpg')).toBe(false);
	});
	it('that is taken back takes its photo with it', async () => {
		mood = 'away';
		const kept = await log('yellow tips');
		if (kept.kind !== 'kept') throw new Error('it should wait');
		await follow(kept.key, { note: 'leaf.jpg' }, 'leaf.jpg');
		await takeBack(kept.key);
		expect(await words()).toEqual([]);
	});
	it('that is refused while its form waits is the form’s, not the queue’s', async () => {
		mood = 'refuses';
		await expect(log('fed')).rejects.toThrow(ApiProblem);
		expect(await words()).toEqual([]);
	});
});

describe('the queue', () => {
	it('sends in the order of entry, by itself, as soon as the server answers', async () => {
		mood = 'away';
		for (const note of ['first', 'second', 'third']) await log(note);
		await sendWaiting();
		expect(await words()).toEqual([
			['first', null],
			['second', null],
			['third', null],
		]);
		mood = 'well';
		await vi.advanceTimersByTimeAsync(3100);
		await vi.waitFor(() => expect(order).toEqual(['first', 'second', 'third']), 10_000);
	});
	it('a new entry takes along what waited before it', async () => {
		mood = 'away';
		await log('first');
		mood = 'well';
		expect(await log('second')).toMatchObject({ kind: 'stored' });
		expect(order).toEqual(['first', 'second']);
	});
	it('a refused entry at its head stays with its reason and holds nothing behind it', async () => {
		mood = 'away';
		for (const note of ['bad', 'second']) await log(note);
		mood = 'well';
		await sendWaiting();
		expect([order, await words()]).toEqual([['second'], [['bad', 'There is no such station.']]]);
		const { key } = (await waitingEntries())[0]!;
		await tryAgain(key);
		expect(await words()).toEqual([['bad', 'There is no such station.']]);
		expect(await takeBack(key)).toBe(true);
		expect(await takeBack(key)).toBe(false);
		expect(await words()).toEqual([]);
	});
});
