import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

let app: Application;
beforeAll(async () => {
	app = await startApplication('empty');
	await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body: JSON.stringify({ name: 'Yard', timezone: 'UTC' }) });
	await postJson(app.base, '/stations', { code: 'pond', kind: 'reservoir', volume_l: 600 });
	await postJson(app.base, '/stations', { code: 'tank', kind: 'reservoir', volume_l: 100 });
	await postJson(app.base, '/instruments', { code: 'plum', kind: 'combined', quantities: { ph: {}, ec: {} } });
});
afterAll(() => app.stop());

const DAY = 86_400_000;
const now = Date.now();
const at = (daysAgo: number) => new Date(now - daysAgo * DAY).toISOString();
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const post = (path: string, body: unknown) => postJson(app.base, path, body);
const log = async (body: object) =>
	(await post('/events', { station: 'pond', kind: 'water_added', amount: 65, unit: 'L', ...body })).body.id as number;
const listed = async (query = '') => (await get(`/events${query}`)).events as Answer[];
const ec = (daysAgo: number, value: string) =>
	post('/readings', { time: at(daysAgo), station: 'pond', instrument: 'plum', quantity: 'ec', value, unit: 'mS/cm' });
const flagOfNewest = async () => (await get('/readings?station=pond&quantity=ec&limit=1')).readings[0].flag as number;

describe('an event', () => {
	it('is corrected in everything that was wrong with it; the original stays and is listed no more', async () => {
		const id = await log({ time: at(30), product: 'rain' });
		const fixed = await post(`/events/${id}/correction`, {
			amount: 6.5,
			time: at(31),
			station: 'tank',
			reason: 'misread',
		});
		expect(fixed.status).toBe(201);
		expect(await listed(`?from=${at(32)}&to=${at(29)}`)).toEqual([
			{
				id: fixed.body.id,
				time: expect.any(String),
				station: 'tank',
				kind: 'water_added',
				amount: 6.5,
				unit: 'L',
				product: 'rain',
				note: '',
			},
		]);
		const again = await post(`/events/${id}/correction`, { amount: 7 });
		expect([again.status, again.body.type]).toEqual([409, 'about:blank#already-corrected']);
		expect((await post(`/events/${fixed.body.id}/correction`, { amount: null, unit: '' })).status).toBe(201);
		expect((await listed(`?from=${at(32)}&to=${at(29)}`)).map((e) => e.amount)).toEqual([null]);
	});
	it('is taken back and put back; what was taken back is not corrected', async () => {
		const id = await log({ time: at(28), note: 'wrong tank' });
		const here = async () => (await listed(`?from=${at(28.5)}&to=${at(27.5)}`)).length;
		expect((await post(`/events/${id}/withdrawal`, { withdrawn: true, reason: 'never happened' })).status).toBe(200);
		expect(await here()).toBe(0);
		expect((await post(`/events/${id}/withdrawal`, { withdrawn: true })).status).toBe(200);
		expect((await post(`/events/${id}/correction`, { amount: 1 })).body.type).toBe('about:blank#withdrawn');
		expect((await post(`/events/${id}/withdrawal`, { withdrawn: false })).status).toBe(200);
		expect(await here()).toBe(1);
	});
	it('that there is none of is a 404; a station or unit that is none a 422, and nothing changes', async () => {
		expect((await post('/events/999999999/correction', { amount: 1 })).status).toBe(404);
		expect((await post('/events/999999999/withdrawal', { withdrawn: true })).status).toBe(404);
		const id = await log({ time: at(26) });
		expect((await post(`/events/${id}/correction`, { station: 'attic' })).status).toBe(422);
		expect((await post(`/events/${id}/correction`, { unit: 'cups' })).status).toBe(422);
		expect((await post(`/events/${id}/correction`, { colour: 'red' })).status).toBe(422);
		expect((await listed(`?from=${at(26.5)}&to=${at(25.5)}`)).map((e) => e.id)).toEqual([id]);
	});
	it('lists newest first where that is asked', async () => {
		const all = (await listed()).map((e) => e.id);
		expect((await listed('?order=newest')).map((e) => e.id)).toEqual([...all].reverse());
	});
});

describe('what hung on an event is judged anew', () => {
	beforeAll(async () => {
		for (let d = 20; d > 2; d--) await ec(d, (1.8 + (d % 4) / 100).toFixed(2));
		await ec(1, '1.20');
	});
	it('a change of solution that is taken back no longer explains the fall; put back, or logged late, it does', async () => {
		expect(await flagOfNewest()).toBe(3);
		const id = await log({ kind: 'solution_changed', time: at(1.5), amount: 600 });
		expect(await flagOfNewest()).toBe(1);
		await post(`/events/${id}/withdrawal`, { withdrawn: true });
		expect(await flagOfNewest()).toBe(3);
		await post(`/events/${id}/withdrawal`, { withdrawn: false });
		expect(await flagOfNewest()).toBe(1);
		// Of another tank, or of a week before, it explains nothing here.
		const moved = (await post(`/events/${id}/correction`, { station: 'tank' })).body.id;
		expect(await flagOfNewest()).toBe(3);
		const back = (await post(`/events/${moved}/correction`, { station: 'pond' })).body.id;
		expect(await flagOfNewest()).toBe(1);
		await post(`/events/${back}/correction`, { time: at(9) });
		expect(await flagOfNewest()).toBe(3);
	});
	it('the stock of a product counts only what was poured', async () => {
		await post('/products', { name: 'grow', kind: 'nutrient', stock_ml: 1000 });
		const left = async () => (await get('/products')).products.find((p: Answer) => p.name === 'grow').left_ml;
		const id = await log({ kind: 'nutrient_added', amount: 100, unit: 'mL', product: 'grow' });
		expect(await left()).toBe(900);
		const fixed = (await post(`/events/${id}/correction`, { amount: 10 })).body.id;
		expect(await left()).toBe(990);
		await post(`/events/${fixed}/withdrawal`, { withdrawn: true });
		expect(await left()).toBe(1000);
	});
});

describe('a file of events', () => {
	it('part B after part A at the same minute is another event; the same line again is not', async () => {
		const csv = (lines: string[]) => ['time,station,kind,amount,unit,product,note', ...lines].join('\n');
		const [a, b] = ['part A', 'part B'].map((part) => `2026-01-05T08:00:00Z,pond,nutrient_added,120,mL,feed,${part}`);
		const send = async (text: string) =>
			(
				await fetch(`${app.base}/api/v1/import`, {
					method: 'POST',
					body: text,
					headers: { 'content-type': 'text/csv' },
				})
			).json();
		expect(await send(csv([a!]))).toMatchObject({ stored: 1, duplicates: 0 });
		expect(await send(csv([a!, b!]))).toMatchObject({ stored: 1, duplicates: 1 });
	});
});
