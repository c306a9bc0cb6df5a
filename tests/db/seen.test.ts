import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** Two growers at Setup: each keeps what the other does not touch, and neither undoes the other unseen (common practice, no source). */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const list = async (what: 'stations' | 'systems' | 'instruments', code: string): Promise<Answer> =>
	(await (await fetch(`${app.base}/api/v1/${what}`)).json())[what].find((x: Answer) => x.code === code);

it.each([
	['stations', 'pond', { volume_l: 2200 }, { note: 'by the door' }],
	['systems', 'pond', { volume_l: 2300 }, { crop: 'basil' }],
	['instruments', 'plum', { alpha_pct_per_c: 2.1 }, { name: 'Plum the second' }],
] as const)(
	'%s: one changes this, the other that, and both stand; the same is not undone unseen',
	async (what, code, mine, theirs) => {
		const before = await list(what, code);
		const { kind } = before;
		const seen = Object.fromEntries(Object.keys(mine).map((k) => [k, before[k]]));
		expect((await postJson(app.base, `/${what}`, { code, kind, ...theirs })).status).toBe(201);
		const saved = await postJson(app.base, `/${what}`, { code, kind, ...mine, seen });
		expect([saved.status, saved.body]).toMatchObject([201, { ...theirs, ...mine }]);
		// A page from before that: what it saw there is another by now.
		const late = await postJson(app.base, `/${what}`, { code, kind, ...mine, ...theirs, seen });
		expect([late.status, late.body.type]).toEqual([409, 'about:blank#changed-meanwhile']);
		const [field, value] = Object.entries(mine)[0]!;
		expect(late.body.errors).toEqual([{ path: field, message: `Somebody changed it meanwhile: it is ${value} now.` }]);
		expect(late.body.detail).toContain('Nothing of this was saved');
		// Whoever does not say what was seen says what it is.
		expect((await postJson(app.base, `/${what}`, { code, kind, ...seen })).status).toBe(201);
		expect(await list(what, code)).toMatchObject({ ...seen, ...theirs });
	},
);
it('a product: the label that one reads and the stock that the other counts both stand; the same is not undone unseen', async () => {
	const acid = async () =>
		(await (await fetch(`${app.base}/api/v1/products`)).json()).products.find((p: Answer) => p.kind === 'acid');
	const { name, kind, percent_w_w, stock_ml } = await acid();
	const seen = { percent_w_w };
	expect((await postJson(app.base, '/products', { name, kind, stock_ml: 777, seen: { stock_ml } })).status).toBe(201);
	expect((await postJson(app.base, '/products', { name, kind, percent_w_w: 41, seen })).status).toBe(201);
	expect(await acid()).toMatchObject({ stock_ml: 777, percent_w_w: 41 });
	const late = await postJson(app.base, '/products', { name, kind, percent_w_w: 42, seen });
	expect([late.status, late.body.errors]).toEqual([
		409,
		[{ path: 'percent_w_w', message: 'Somebody changed it meanwhile: it is 41 now.' }],
	]);
	expect((await acid()).percent_w_w).toBe(41);
});
it('the limits of a dose are held against one another also where one of them alone is sent', async () => {
	const pond = { code: 'pond', kind: 'reservoir' };
	expect((await postJson(app.base, '/stations', { ...pond, most_ph: 6.5 })).status).toBe(201);
	const crossed = await postJson(app.base, '/stations', { ...pond, least_ph: 6.8 });
	expect([crossed.status, crossed.body.errors]).toMatchObject([422, [{ path: 'least_ph' }]]);
	expect((await list('stations', 'pond')).least_ph ?? null).toBeNull();
});
