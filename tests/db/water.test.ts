import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { requireSite } from '@/service/site';
import { waterView } from '@/service/water';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';
import { withDatabase } from '../helpers/database';
import { DEMO_NOW } from '../helpers/global-setup';

/** The calculators of water and mix over HTTP, as a script would use them, and what they refuse. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const calc = (name: string, body: unknown) => postJson(app.base, `/calc/${name}`, body);

const ACID = {
	ph: 7.8,
	alkalinity_mg_l_caco3: 150,
	target_ph: 5.8,
	temp_c: 25,
	volume_l: 1000,
	acid: { kind: 'nitric', percent_w_w: 67, density_g_ml: 1.4 },
};

describe('calculators', () => {
	it('acid, blend, dilute, nutrient-dose and water-report answer as the contract says', async () => {
		const acid = (await calc('acid', ACID)).body;
		expect(acid.meq_per_l).toBeCloseTo(2.32, 2);
		expect(acid.ml_total).toBeCloseTo(155.9, 0);
		expect(acid.ph_after_degassing).toBeCloseTo(8, 1);
		expect(acid.g_total).toBeUndefined();
		const powder = (await calc('acid', { ...ACID, acid: { kind: 'citric', percent_w_w: 100 } })).body;
		expect(powder.ml_total).toBeUndefined();
		expect(powder.g_total).toBeCloseTo(210.3, 0);
		const blend = (
			await calc('blend', { waters: [{ ec_us_cm: 130 }, { ec_us_cm: 0 }], target: { ec_us_cm: 65 }, total_l: 100 })
		).body;
		expect(blend.volumes_l).toEqual([50, 50]);
		expect(blend.alkalinity_mg_l_caco3).toBeNull();
		expect(
			(await calc('dilute', { volume_l: 100, ec_us_cm: 2400, target_ec_us_cm: 2000, with_ec_us_cm: 400 })).body,
		).toEqual({
			drain_l: 0,
			add_l: 25,
			ec_us_cm: 2000,
		});
		expect((await calc('nutrient-dose', { volume_l: 100, rate_ml_per_l: 4, strength: 0.5 })).body).toEqual({
			ml_each: 200,
		});
		const report = (
			await calc('water-report', {
				ions: { ca_mg_l: 55, mg_mg_l: 12, na_mg_l: 28, hco3_mg_l: 158.7, cl_mg_l: 23.4, so4_mg_l: 81.1 },
				ec_us_cm: 490,
			})
		).body;
		expect(report.balance_ok).toBe(true);
		expect(report.ec_calculated_us_cm).toBeCloseTo(483, -0.5);
		expect(report.grades.find((g: Answer) => g.of === 'hardness').grade).toBe('very hard');
	});
	it.each([
		['acid', { ...ACID, target_ph: 8 }, 'target_ph'],
		['acid', { ...ACID, acid: { kind: 'nitric', percent_w_w: 0, density_g_ml: 1.4 } }, 'acid.percent_w_w'],
		['acid', { ...ACID, acid: { kind: 'nitric', percent_w_w: 120, density_g_ml: 1.4 } }, 'acid.percent_w_w'],
		['acid', { ...ACID, acid: { kind: 'constructor', percent_w_w: 10 } }, 'acid.kind'],
		['acid', { ...ACID, volume_l: -5 }, 'volume_l'],
		['acid', { ...ACID, volume_l: '1000' }, 'volume_l'],
		['acid', { ...ACID, ph: 15 }, 'ph'],
		['blend', { waters: [] }, 'waters'],
		['blend', { waters: [{ ec_us_cm: 100 }, { ec_us_cm: 200 }] }, 'waters'],
		['blend', { waters: [{ ec_us_cm: 100 }, { ec_us_cm: 200 }], target: { ec_us_cm: 300 } }, 'target.ec_us_cm'],
		['dilute', { volume_l: 100, ec_us_cm: 2000, target_ec_us_cm: 2400, with_ec_us_cm: 400 }, 'target_ec_us_cm'],
		[
			'dilute',
			{ volume_l: 100, ec_us_cm: 2000, target_ec_us_cm: 1800, with_ec_us_cm: 400, capacity_l: 50 },
			'capacity_l',
		],
		['nutrient-dose', { volume_l: 100 }, 'rate_ml_per_l'],
		['nutrient-dose', { volume_l: 100, rate_ml_per_l: 4000 }, 'rate_ml_per_l'],
		['water-report', { ions: {} }, 'ions'],
		['water-report', { ions: { __proto__x: 1 } }, 'ions'],
		['water-report', { ions: { ca_mg_l: -1 } }, 'ions.ca_mg_l'],
	])('%s refuses %j at %s', async (name, body, path) => {
		const answer = await calc(name, body);
		expect([400, 422]).toContain(answer.status);
		expect(answer.body.errors.map((e: Answer) => e.path).join(' ')).toContain(path);
	});
	it('huge but valid numbers are a number or a refusal, never null', async () => {
		for (const [name, body] of [
			[
				'blend',
				{
					waters: [
						{ ec_us_cm: 1e6, volume_l: 1e9 },
						{ ec_us_cm: 0, volume_l: 1e9 },
					],
				},
			],
			['dilute', { volume_l: 1e9, ec_us_cm: 1e6, target_ec_us_cm: 1, with_ec_us_cm: 0 }],
			[
				'acid',
				{
					...ACID,
					alkalinity_mg_l_caco3: 5000,
					volume_l: 1e9,
					acid: { kind: 'acetic', percent_w_w: 0.0001, density_g_ml: 1 },
				},
			],
			['water-report', { ions: { ca_mg_l: 1e6, cl_mg_l: 1e6 } }],
		] as const) {
			const answer = await calc(name, body);
			expect([200, 422]).toContain(answer.status);
			if (answer.status === 200)
				for (const key of ['volumes_l', 'add_l', 'ml_total', 'ec_calculated_us_cm'])
					if (key in answer.body) expect([answer.body[key]].flat().every(Number.isFinite)).toBe(true);
		}
	});
	it('a report with only cations is answered for what it has, and says what it has not', async () => {
		const { body, status } = await calc('water-report', { ions: { ca_mg_l: 80, mg_mg_l: 12 } });
		expect(status).toBe(200);
		expect(body.balance_ok).toBe(false);
		expect(body.odd.map((o: Answer) => o.code)).toEqual(['no-anions']);
		expect(body.hardness_mg_l_caco3).toBeCloseTo(249.2, 1);
	});
});

describe('sources and batches', () => {
	it('the demo’s borehole shift is confirmed and its membrane watched', async () => {
		const { sources, membranes } = await (await fetch(`${app.base}/api/v1/sources`)).json();
		const borehole = sources.find((s: Answer) => s.station === 'borehole');
		expect(borehole.charts.ec.shifts).toMatchObject([{ confirmed: true }]);
		expect(borehole.charts.ec.shifts[0].to).toBeCloseTo(872, -2);
		expect(membranes).toMatchObject([{ station: 'ro', feed: 'borehole', state: { known: true, why: 'membrane' } }]);
	});
	it('the date of the membrane lies near the simulated truth', async () => {
		await withDatabase('demo', async (pool) => {
			const view = await waterView(pool, await requireSite(pool), DEMO_NOW);
			const state = view.membranes[0]!.state;
			if (!state.known || !state.reaches.watch) throw new Error('no date');
			// It passes 3 % + 6.2 %·(d/243)² of the feed: 10 % at day 258, fifteen days after the demo’s end.
			const truth = DEMO_NOW + 15 * 86_400_000;
			expect(Math.abs(state.reaches.watch.likely - truth) / 86_400_000).toBeLessThan(30);
			expect((state.reaches.watch.early - truth) / 86_400_000).toBeLessThan(7);
		});
	});
	it('a batch that would run over is refused, and a finished one takes no more steps', async () => {
		const plan = {
			litres: 5000,
			water: 'rain',
			water_ec_us_cm: 60,
			pours: [{ product: 'feed A and B', per_l: 4 }],
			target_ec_us_cm: 1900,
			target_ph: 5.8,
		};
		const over = await postJson(app.base, '/batches', { station: 'mix', plan });
		expect(over.status).toBe(422);
		expect(over.body.errors[0].message).toContain('run over');
		const { body } = await postJson(app.base, '/batches', { station: 'mix', plan: { ...plan, litres: 900 } });
		expect(
			(await postJson(app.base, `/batches/${body.id}/steps`, { follows: 0, step: 'done', words: 'done' })).status,
		).toBe(200);
		expect(
			(await postJson(app.base, `/batches/${body.id}/steps`, { follows: 1, step: 'ec', words: 'late' })).status,
		).toBe(409);
		expect(
			(
				await postJson(app.base, '/batches', {
					station: 'mix',
					plan: { ...plan, pours: [{ product: 'nothing', per_l: 4 }] },
				})
			).status,
		).toBe(422);
	});
	it('doses are learned from the events and readings of a tank', async () => {
		const { body } = await postJson(app.base, '/mix/dose', {
			station: 'pond',
			product: 'pH down',
			target_ph: 5.9,
			ph: 6.4,
		});
		expect(body.do).toBe('dose');
		expect(body.past.length).toBeGreaterThanOrEqual(3);
		// The demo’s pond buffers 0.55 meq per litre and pH: 2400 L · 0.5 pH · 0.55 / 4.2 meq/mL = 157 mL.
		expect(body.ml_to_target / 157).toBeGreaterThan(0.7);
		expect(body.ml_to_target / 157).toBeLessThan(1.4);
		expect(body.low_ph).toBeLessThan(body.predicted_ph);
		expect(
			(await postJson(app.base, '/mix/dose', { station: 'pond', product: 'feed A and B', target_ph: 5.9, ph: 6.4 }))
				.status,
		).toBe(422);
	});
});
