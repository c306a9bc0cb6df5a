import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { daysLater } from '@/core/crop/plan';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** A season by its stages, as the API keeps it: its targets are those of the station, two people find one another. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const today = () => sheetDay(Date.now(), 'Europe/Amsterdam');
const stage = (name: string, days: number, ec: [number, number], begun: string | null = null) => ({
	name,
	days,
	ec_us_cm: ec,
	ph: [5.5, 6.2],
	begun,
});
const pondRanges = async () => {
	const { stations } = await get('/stations');
	return stations.find((s: Answer) => s.code === 'pond').ranges;
};
const systemStage = async () => (await get('/systems')).systems.find((s: Answer) => s.code === 'pond').stage;

describe('a plan', () => {
	it('sets the targets of the tank by the stage that is on, and no others', async () => {
		const before = await pondRanges();
		const begun = daysLater(today(), -10);
		const { status, body } = await postJson(app.base, '/plans', {
			system: 'pond',
			version: 0,
			stages: [stage('seedling', 14, [600, 900], begun), stage('growing', 28, [1200, 1800])],
		});
		expect(status).toBeLessThan(300);
		expect(body).toMatchObject({ version: 1, current: 0, next: { index: 1, on: daysLater(begun, 14), in_days: 4 } });
		expect(await pondRanges()).toEqual({ ...before, ec: [600, 900], ph: [5.5, 6.2] });
		expect(await systemStage()).toBe('seedling');
		// A drain has limits of its own: it is left alone.
		expect((await get('/plans')).plans.map((p: Answer) => p.system)).toEqual(['gutters', 'pond']);
	});
	it('goes on by a word; who comes second is told, and nothing is changed twice', async () => {
		const forward = () => postJson(app.base, '/plans/pond/stage', { index: 1, version: 1 });
		const both = await Promise.all([forward(), forward()]);
		expect(both.map((b) => b.status).sort()).toEqual([expect.any(Number), 409]);
		expect(both.find((b) => b.status === 409)!.body.type).toContain('changed-meanwhile');
		const [plan] = (await get('/plans')).plans.filter((p: Answer) => p.system === 'pond');
		expect([plan.version, plan.current, plan.stages[1].begun]).toEqual([2, 1, today()]);
		expect((await pondRanges()).ec).toEqual([1200, 1800]);
		// The next batch aims at what the station says.
		expect(await systemStage()).toBe('growing');
	});
	it('an answer that was lost is asked for again without a second step', async () => {
		const key = crypto.randomUUID();
		const send = () =>
			fetch(`${app.base}/api/v1/plans/pond/stage`, {
				method: 'POST',
				headers: { 'content-type': 'application/json', 'idempotency-key': key },
				body: JSON.stringify({ index: 0, on: daysLater(today(), -10), version: 2 }),
			});
		const [first, again] = [await (await send()).json(), await (await send()).json()];
		expect(again).toEqual(first);
		expect(first).toMatchObject({ version: 3, current: 0 });
	});
	it('as CSV with its days; refusals say what to do', async () => {
		const rows = parse(await (await fetch(`${app.base}/api/v1/plans?format=csv`)).text(), { columns: true }) as Record<
			string,
			string
		>[];
		expect(rows.filter((r) => r.system === 'pond').map((r) => [r.stage, r.begun, r.ec_low_us_cm])).toEqual([
			['seedling', 'yes', '600'],
			['growing', 'no', '1200'],
		]);
		const refused = async (body: object, path = '/plans') => {
			const answer = await postJson(app.base, path, body);
			return [answer.status, answer.body.errors?.[0]?.path];
		};
		const bad = (s: object) => refused({ system: 'pond', version: 3, stages: [s] });
		expect(await bad(stage('x', 0, [1, 2]))).toEqual([422, 'stages.0.days']);
		expect(await bad(stage('x', 5, [900, 600]))).toEqual([422, 'stages.0.ec_us_cm']);
		expect(await bad(stage('x', 5, [600, 900], daysLater(today(), 3)))).toEqual([422, 'stages.0.begun']);
		expect(
			await refused({
				system: 'pond',
				version: 3,
				stages: [stage('a', 5, [600, 900], '2026-07-02'), stage('b', 5, [600, 900], '2026-07-01')],
			}),
		).toEqual([422, 'stages']);
		expect(await refused({ index: 9, version: 3 }, '/plans/pond/stage')).toEqual([404, 'index']);
		expect(await refused({ index: 0, version: 0 }, '/plans/slabs/stage')).toEqual([404, 'system']);
		expect(await refused({ index: 0, version: 0 }, '/plans/attic/stage')).toEqual([422, 'system']);
	});
	it('is put away; targets stay, and it can begin anew', async () => {
		const { ec } = await pondRanges();
		expect((await postJson(app.base, '/plans/pond/end', { version: 2 })).status).toBe(409);
		expect((await postJson(app.base, '/plans/pond/end', { version: 3 })).status).toBeLessThan(300);
		expect((await get('/plans')).plans.map((p: Answer) => p.system)).toEqual(['gutters']);
		expect((await pondRanges()).ec).toEqual(ec);
		const { body } = await postJson(app.base, '/plans', {
			system: 'pond',
			version: 0,
			stages: [stage('growing', 20, [1200, 1800])],
		});
		expect(body).toMatchObject({ version: 1, current: null, next: { index: 0, in_days: 0 } });
	});
});
