import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recomputeAll } from '@/service/restate';
import { requireSite } from '@/service/site';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';
import { withDatabase } from '../helpers/database';

let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const calc = (path: string, body: unknown) => postJson(app.base, `/calc/${path}`, body);
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();

describe('calculators of measurement', () => {
	it('standard', async () => {
		expect(await calc('standard', { standard: 'pH 7.00', temp_c: 20 })).toMatchObject({
			status: 200,
			body: { nominal: 7.02, unit: 'pH' },
		});
		expect(
			await calc('standard', { standard: 'KCl 1413', temp_c: 20, compensated: { alpha_pct_per_c: 2 } }),
		).toMatchObject({ body: { nominal: 1420, unit: 'uS/cm' } });
		expect((await calc('standard', { standard: 'pH 7.00', temp_c: 45 })).status).toBe(422);
		expect((await calc('standard', { standard: 'constructor', temp_c: 20 })).status).toBe(422);
	});
	it('calibration', async () => {
		const two = await calc('calibration', {
			quantity: 'ph',
			temp_c: 25,
			points: [
				{ nominal: 7, as_found: 7.1, mv: -6 },
				{ nominal: 4.01, as_found: 4.1, mv: 168 },
			],
		});
		expect(two.body).toMatchObject({
			verdict: expect.any(String),
			offset_mv: expect.any(Number),
			slope_pct: expect.closeTo((100 * (168 + 6)) / (59.16 * 2.99), 1),
		});
		expect(
			await calc('calibration', { quantity: 'ec', temp_c: 25, points: [{ nominal: 1413, as_found: 1300 }] }),
		).toMatchObject({
			body: { cell_factor: expect.closeTo(1413 / 1300, 9), verdict: 'watch', reasons: [expect.any(String)] },
		});
		for (const points of [
			[],
			[
				{ nominal: 7, as_found: 7 },
				{ nominal: 7, as_found: 7.1 },
			],
			[{ nominal: 15, as_found: 7 }],
			[{ nominal: 7, as_found: '7' }],
		])
			expect((await calc('calibration', { quantity: 'ph', temp_c: 25, points })).status).toBe(422);
	});
	it('restate', async () => {
		const at = (d: number) => new Date(Date.UTC(2026, 0, 1 + d)).toISOString();
		const body = {
			quantity: 'ph',
			value: 6.2,
			taken_at: at(10),
			from: { at: at(0), kind: 'adjust', points: [{ nominal: 7, found: 7 }] },
			to: { at: at(20), points: [{ nominal: 7, found: 7.4 }] },
		};
		expect(await calc('restate', body)).toMatchObject({
			body: { value: expect.closeTo(6, 9), error: expect.closeTo(0.2, 9), applied: true },
		});
		expect(await calc('restate', { ...body, taken_at: at(30) })).toMatchObject({
			body: { value: 6.2, applied: false },
		});
		expect((await calc('restate', { ...body, to: body.to, from: { ...body.from, at: at(40) } })).status).toBe(422);
		expect(
			(
				await calc('restate', {
					...body,
					to: {
						at: at(20),
						points: [
							{ nominal: 7, found: 6 },
							{ nominal: 4, found: 6 },
						],
					},
				})
			).status,
		).toBe(422);
	});
	it('storage-solution', async () => {
		expect(await calc('storage-solution', { molar: 3, volume_ml: 100 })).toMatchObject({
			body: { kcl_g: expect.closeTo(22.365, 3) },
		});
		expect((await calc('storage-solution', { molar: 6, volume_ml: 100 })).status).toBe(422);
	});
});

describe('the demo’s drifting pen', () => {
	it('its page shows the drift, lists the restated readings and the decisions turned', async () => {
		const story = await get('/probes/brass/ph');
		expect(story.touched.length).toBeGreaterThan(50);
		expect(story.turned.length).toBeGreaterThan(5);
		expect(story.turned.some((t: { doses: unknown[] }) => t.doses.length > 0)).toBe(true);
		expect(story.calibrations.some((c: { verdict: string }) => c.verdict === 'fail')).toBe(true);
		expect(story.rate_per_day).toBeGreaterThan(0.005);
		const { probes } = await get('/probes');
		expect(probes.at(-1)).toMatchObject({ instrument: 'brass' });
	});
	it('recomputing everything changes nothing', () =>
		withDatabase('demo', async (pool) => {
			const all = async () => (await pool.query('SELECT * FROM restatement ORDER BY reading_id')).rows;
			const before = await all();
			await recomputeAll(pool, await requireSite(pool));
			expect(await all()).toEqual(before);
			expect(before.length).toBeGreaterThan(1000);
		}));
});

describe('probes that meet', () => {
	const BEGIN = Math.floor(Date.now() / 3_600_000 - 1 - 29 * 24) * 3_600_000;
	const day = (n: number, minute = 0) => new Date(BEGIN + n * 86_400_000 + minute * 60_000).toISOString();
	const calibrated = (instrument: string, n: number) =>
		postJson(app.base, '/calibrations', {
			instrument,
			quantity: 'ph',
			time: day(n),
			kind: 'adjust',
			temp_c: 25,
			points: [{ standard: 'pH 7.00', as_found: 7, as_left: 7 }],
		});
	const cup = async (n: number, old: number, fresh: number) => {
		const sent = await postJson(app.base, '/readings', [
			{ time: day(n, 5), station: 'cup', instrument: 'old', quantity: 'ph', value: String(old), unit: 'pH' },
			{ time: day(n, 5), station: 'cup', instrument: 'fresh', quantity: 'ph', value: String(fresh), unit: 'pH' },
		]);
		expect(sent.status).toBe(201);
		return (sent.body.samples as { readings: { id: number }[] }[]).flatMap((s) => s.readings.map((r) => r.id));
	};
	const worth = async (id: number) => (await get(`/readings/${id}/history`)) as Answer;

	it('one checked long ago is told to be off by one checked just now, before anybody dips it; its next calibration settles it', async () => {
		const own = await startApplication('demo');
		const before = app;
		app = own;
		try {
			expect((await postJson(app.base, '/stations', { code: 'cup', name: 'Cup', kind: 'reservoir' })).status).toBe(201);
			for (const code of ['old', 'fresh'])
				await postJson(app.base, '/instruments', {
					code,
					name: code === 'old' ? 'Old' : 'Fresh',
					kind: 'ph',
					quantities: { ph: { resolution: 0.01, accuracy: 0.05 } },
				});
			await calibrated('old', 0);
			for (const n of [0, 8, 16, 24]) await calibrated('fresh', n);
			for (const n of [1, 9, 17]) await cup(n, 6.01, 6);
			const off: number[][] = [];
			for (const n of [25, 26, 27, 28]) off.push(await cup(n, 6.31, 6));
			const shown = (await get('/probes/old/ph')) as Answer;
			expect(shown).toMatchObject({ error_told: true, due_reason: expect.stringContaining('Fresh disagreed in') });
			expect(shown.error_today).toBeGreaterThan(0.15);
			expect(shown.met.length).toBe(7);
			expect((await get('/probes/fresh/ph')).error_told).toBe(false);
			// What was read with it meanwhile is put right, and says by what.
			const [last] = off.at(-1)!;
			const told = await worth(last!);
			expect(told.readings[0].restated).toBeLessThan(6.15);
			expect(told.evidence).toMatchObject({ to: null, beside: [{ other: 'Fresh', times: 7 }] });
			expect(told.evidence.beside[0].share).toBeGreaterThan(0.5);
			// One alone that is told is no matter of two.
			expect((await get('/probes')).apart).toEqual([]);
			// The next visit settles the whole stretch; a cup discarded meanwhile is no evidence any more.
			await postJson(app.base, `/readings/${off[0]![1]}/decision`, { kind: 'discard', reason: 'a bubble' });
			expect((await worth(last!)).evidence.beside[0].times).toBe(6);
			await postJson(app.base, '/calibrations', {
				instrument: 'old',
				quantity: 'ph',
				time: day(29),
				kind: 'adjust',
				temp_c: 25,
				points: [{ standard: 'pH 7.00', as_found: 7.3, as_left: 7 }],
			});
			const settled = await worth(last!);
			expect(settled.evidence.to).toBe(day(29).replace('.000', ''));
			expect(settled.readings[0].restated).toBeCloseTo(6, 1);
			expect((await get('/probes/old/ph')).error_told).toBe(false);
			expect((await get('/probes')).dip).toMatchObject({ share: expect.any(Number) });
		} finally {
			app = before;
			await own.stop();
		}
	});
});

describe('a bottle that is suspected', () => {
	it('leaves what it changed provisional, for both meters, until a second bottle agrees; and again when that is withdrawn', async () => {
		const own = await startApplication('demo');
		const send = (path: string, body: unknown) => postJson(own.base, path, body);
		const read = async (path: string): Promise<Answer> => (await fetch(`${own.base}/api/v1${path}`)).json();
		try {
			const at = (hours: number) =>
				new Date(Math.floor(Date.now() / 60_000) * 60_000 - hours * 3_600_000).toISOString();
			for (const [name, standard] of [
				['old seven', 'pH 7.00'],
				['new seven', 'pH 7.00'],
			])
				expect((await send('/lots', { name, standard })).status).toBeLessThan(300);
			for (const code of ['one', 'two']) {
				await send('/instruments', {
					code,
					name: code,
					kind: 'ph',
					quantities: { ph: { resolution: 0.01, accuracy: 0.05 } },
				});
				await send('/readings', [
					{ time: at(60), station: 'pond', instrument: code, quantity: 'ph', value: '6.4', unit: 'pH' },
				]);
			}
			const found = (instrument: string, hours: number, lot: string, asFound: number, kind = 'check') =>
				send('/calibrations', {
					instrument,
					quantity: 'ph',
					time: at(hours),
					kind,
					temp_c: 25,
					points: [{ standard: 'pH 7.00', lot, as_found: asFound, as_left: kind === 'adjust' ? 7 : null }],
				});
			const provisional = async () =>
				Promise.all(
					['one', 'two'].map(async (code) => {
						const { readings } = await read(`/readings?instrument=${code}&quantity=ph`);
						return readings.at(-1).restated_provisional as boolean;
					}),
				);
			for (const code of ['one', 'two']) await found(code, 100, 'old seven', 7, 'adjust');
			await found('one', 48, 'old seven', 7.4);
			expect(await provisional()).toEqual([false, false]);
			await found('two', 47, 'old seven', 7.45);
			expect(await provisional()).toEqual([true, true]);
			const agreed = await found('one', 46, 'new seven', 7.4);
			expect(await provisional()).toEqual([false, false]);
			await send(`/calibrations/${agreed.body.id}/withdrawal`, { withdrawn: true });
			expect(await provisional()).toEqual([true, true]);
		} finally {
			await own.stop();
		}
	});
});

describe('calibrations change the past, and give it back', () => {
	it('entered, withdrawn, reinstated; originals untouched', async () => {
		const readings = async () =>
			(await get('/readings?instrument=plum&quantity=ph&limit=30')).readings as {
				id: number;
				restated: number | null;
				value: string;
			}[];
		const before = await readings();
		const entered = await postJson(app.base, '/calibrations', {
			instrument: 'plum',
			quantity: 'ph',
			time: '2026-07-14T08:00:00Z',
			kind: 'adjust',
			temp_c: 25,
			points: [
				{ standard: 'pH 7.00', as_found: 7.6, as_left: 7 },
				{ standard: 'pH 4.01', as_found: 4.5, as_left: 4.01 },
			],
		});
		expect(entered).toMatchObject({ status: 201, body: { result: { verdict: 'fail' } } });
		expect(entered.body.restated).toBeGreaterThan(5);
		const during = await readings();
		expect(during.filter((r) => r.restated !== null).length).toBeGreaterThan(5);
		expect(during.map((r) => r.value)).toEqual(before.map((r) => r.value));
		await postJson(app.base, `/calibrations/${entered.body.id}/withdrawal`, { withdrawn: true });
		expect(await readings()).toEqual(before);
		await postJson(app.base, `/calibrations/${entered.body.id}/withdrawal`, { withdrawn: false });
		expect(await readings()).toEqual(during);
		await postJson(app.base, `/calibrations/${entered.body.id}/withdrawal`, { withdrawn: true });
	});
	const base = {
		instrument: 'plum',
		quantity: 'ph',
		time: '2026-07-10T08:00:00Z',
		kind: 'check',
		temp_c: 20,
		points: [{ standard: 'pH 7.00', as_found: 7.05 }],
	};
	it.each([
		[
			'buffers in the wrong order',
			{
				points: [
					{ standard: 'pH 7.00', as_found: 4.1 },
					{ standard: 'pH 4.01', as_found: 7 },
				],
				accept_doubts: true,
			},
			/exchanged/,
		],
		['as found of 7 in the 4 buffer', { points: [{ standard: 'pH 4.01', as_found: 7 }] }, /is this your/],
		[
			'the same buffer twice',
			{
				points: [
					{ standard: 'pH 7.00', as_found: 7 },
					{ standard: 'pH 7.00', as_found: 7.1 },
				],
			},
			/given twice/,
		],
		['a temperature outside the table', { temp_c: 50 }, /table of pH 7.00 runs from/],
		['no temperature', { temp_c: null }, /temperature/],
		['an unknown standard', { points: [{ standard: 'pH 7.77', as_found: 7 }] }, /not a standard known/],
		['nothing found', { points: [{ standard: 'pH 7.00' }] }, /As found is missing/],
		['the future', { time: '2030-01-01T00:00:00Z' }, /future/],
		[
			'a dead probe',
			{
				points: [
					{ standard: 'pH 7.00', as_found: 6.5 },
					{ standard: 'pH 4.01', as_found: 6.5 },
				],
				accept_doubts: true,
			},
			/does not answer/,
		],
	])('refuses %s, saying what to do', async (_, change, words) => {
		const answer = await postJson(app.base, '/calibrations', { ...base, ...change });
		expect(answer.status).toBe(422);
		expect(answer.body.detail).toMatch(words);
	});
	it('is worked out in the background, telling how far it has come; what is wrong with it is said at once', async () => {
		expect((await postJson(app.base, '/calibrations?background=1', { ...base, temp_c: 50 })).status).toBe(422);
		const begun = await postJson(app.base, '/calibrations?background=1', {
			...base,
			instrument: 'brass',
			time: '2026-07-12T08:00:00Z',
			points: [{ standard: 'pH 7.00', as_found: 7.6 }],
		});
		expect(begun.status).toBe(202);
		for (let tries = 0; ; tries++) {
			const job = await get(`/jobs/${begun.body.job}`);
			if (job.state !== 'running' || tries > 200) {
				expect(job).toMatchObject({
					state: 'done',
					phase: 'readings restated',
					done: expect.any(Number),
					result: { result: { verdict: 'fail' }, restated: expect.any(Number) },
				});
				// Only what the visit has to do with: the readings since the one before, and after it.
				expect(job.done).toBeGreaterThan(10);
				expect(job.done).toBeLessThan(100);
				break;
			}
			await new Promise((resolve) => setTimeout(resolve, 20));
		}
	});
	it('refuses a second one in the same minute, and one before the probe was in service', async () => {
		expect((await postJson(app.base, '/calibrations', base)).status).toBe(201);
		expect((await postJson(app.base, '/calibrations', { ...base, time: '2026-07-10T08:00:40Z' })).status).toBe(409);
		await fetch(`${app.base}/api/v1/probes/plum/ph`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ in_service: '2026-07-01' }),
		});
		const early = await postJson(app.base, '/calibrations', { ...base, time: '2026-06-01T08:00:00Z' });
		expect(early).toMatchObject({ status: 422, body: { detail: expect.stringContaining('in service since') } });
	});
	it('accepts with a stated doubt: between two others, an expired bottle, one buffer', async () => {
		await postJson(app.base, '/lots', { name: 'old seven', standard: 'pH 7.00', expires: '2026-01-01' });
		const answer = await postJson(app.base, '/calibrations', {
			...base,
			time: '2026-07-05T08:00:00Z',
			points: [{ standard: 'pH 7.00', lot: 'old seven', as_found: 7.03 }],
		});
		expect(answer.status).toBe(201);
		expect(answer.body.doubts.join(' ')).toMatch(/expired.*another calibration.*One buffer/);
	});
	it('warns of pure water in the cap', async () => {
		const answer = await fetch(`${app.base}/api/v1/probes/brass/ph`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ storage: 'pure_water' }),
		});
		expect(await answer.json()).toMatchObject({ warning: expect.stringContaining('strips') });
	});
});

describe('scale and compensation re-read the past', () => {
	it('a ppm scale found later, and a meter found not to compensate', async () => {
		const own = await startApplication('empty');
		const put = (path: string, body: unknown) =>
			fetch(`${own.base}/api/v1${path}`, {
				method: 'PUT',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(body),
			});
		const newest = async () => (await (await fetch(`${own.base}/api/v1/readings?limit=1`)).json()).readings[0];
		try {
			await put('/site', { name: 'X', timezone: 'UTC' });
			await postJson(own.base, '/stations', { code: 'tank', kind: 'reservoir' });
			const pen = { code: 'pen', kind: 'ec', ppm_scale: 500 };
			await postJson(own.base, '/instruments', pen);
			await postJson(own.base, '/readings', {
				station: 'tank',
				instrument: 'pen',
				quantity: 'tds',
				value: 700,
				unit: 'ppm',
				temp_c: 15,
			});
			expect(await newest()).toMatchObject({ canonical_value: 1400, restated: null });
			await postJson(own.base, '/instruments?since=always', { ...pen, ppm_scale: 700 });
			expect(await newest()).toMatchObject({ canonical_value: 1400, restated: expect.closeTo(1000, 9), value: '700' });
			// 2 %/°C over ten degrees: 1000 µS/cm at 15 °C is 1250 at 25.
			await postJson(own.base, '/instruments?since=always', { ...pen, ppm_scale: 700, compensates: false });
			expect(await newest()).toMatchObject({ restated: expect.closeTo(1250, 9) });
			await postJson(own.base, '/instruments?since=always', { ...pen, ppm_scale: 500, compensates: true });
			expect(await newest()).toMatchObject({ restated: null });
		} finally {
			await own.stop();
		}
	});
});

describe('a probe whose waters are far from the temperature of its calibration', () => {
	it('is told so once, on its page; none of its readings is doubted for it', async () => {
		const own = await startApplication('empty');
		try {
			const send = (csv: string) =>
				fetch(`${own.base}/api/v1/import`, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: csv }).then(
					(r) => r.json(),
				);
			const day = (n: number) => new Date(Date.UTC(2026, 5, n, 8)).toISOString();
			const readings = Array.from({ length: 8 }, (_, i) => `${day(i + 2)},well,pen,ph,7.3${i % 3},pH,10.${i % 4}`);
			await send(
				`time,instrument,quantity,kind,standard,nominal,as_found,as_left,temp_c\n${day(1)},pen,ph,adjust,7,7,7,7,24\n`,
			);
			expect(await send(`time,station,instrument,quantity,value,unit,temp_c\n${readings.join('\n')}\n`)).toMatchObject({
				stored: 8,
				flagged: {},
			});
			const { note } = await (await fetch(`${own.base}/api/v1/probes/pen/ph`)).json();
			expect(note).toMatch(/usually have 10\.\d °C; it was calibrated at 24/);
			const { note: none } = await (await fetch(`${app.base}/api/v1/probes/plum/ph`)).json();
			expect(none).toBe('');
		} finally {
			await own.stop();
		}
	});
});

describe('calibrations in files', () => {
	it('restatements go out with the original and the calibrations behind them', async () => {
		const csv = await (await fetch(`${app.base}/api/v1/restatements?instrument=brass&quantity=ph`)).text();
		const [header, ...rows] = csv
			.trim()
			.split('\n')
			.map((l) => l.split(','));
		expect(header!.slice(4, 8)).toEqual(['value', 'unit', 'canonical_value', 'restated']);
		// Settled at a visit; what was told since the last one has no calibration after it.
		const restated = rows.filter((r) => r[10] === 'restated' && r[12] !== '');
		expect(restated.length).toBeGreaterThan(50);
		for (const r of restated) {
			expect(Date.parse(r[11]!)).toBeLessThanOrEqual(Date.parse(r[0]!));
			expect(Date.parse(r[12]!)).toBeGreaterThanOrEqual(Date.parse(r[0]!));
		}
		// What was found at a visit is put right in the whole stretch before it; it was more than may be left alone.
		const visits = new Set(restated.map((r) => r[12]!));
		expect(visits.size).toBeGreaterThan(3);
		for (const visit of visits) {
			const changes = restated.filter((r) => r[12] === visit).map((r) => Math.abs(Number(r[7]) - Number(r[4])));
			expect(Math.max(...changes)).toBeGreaterThan(0.08);
		}
	});
	it('go out and come in again, changing nothing; restore a fresh installation', async () => {
		const csv = await (await fetch(`${app.base}/api/v1/calibrations?format=csv`)).text();
		expect(csv.split('\n')[0]).toMatch(/^time,instrument,quantity,kind,standard,nominal,as_found,as_left,temp_c,note/);
		const send = (base: string) =>
			fetch(`${base}/api/v1/import`, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: csv }).then((r) =>
				r.json(),
			);
		expect(await send(app.base)).toMatchObject({ format: 'calibrations', stored: 0, bad: 0 });
		const own = await startApplication('empty');
		try {
			expect((await send(own.base)).stored).toBeGreaterThan(20);
			expect(await (await fetch(`${own.base}/api/v1/calibrations?format=csv`)).text()).toBe(csv);
		} finally {
			await own.stop();
		}
	});
});
