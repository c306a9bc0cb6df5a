import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate } from '@/store/migrate';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';
import { withInstallation } from '../helpers/database';

let app: Application;
beforeAll(async () => {
	app = await startApplication('empty');
	await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body: JSON.stringify({ name: 'Yard', timezone: 'UTC' }) });
	await postJson(app.base, '/stations', { code: 'pond', kind: 'reservoir' });
	await postJson(app.base, '/instruments', { code: 'plum', kind: 'combined' });
});
afterAll(() => app.stop());
const get = async (path: string): Promise<{ status: number; body: Answer }> => {
	const r = await fetch(`${app.base}/api/v1${path}`);
	return { status: r.status, body: await r.json() };
};
const ph = (more: object) =>
	postJson(app.base, '/readings', { station: 'pond', quantity: 'ph', value: '6.1', unit: 'pH', ...more });

describe('codes that mean something in an address', () => {
	it.each(['bed 1/2', '50%', 'a+b', 'a&b', 'a;b', 'a:b', 'why?', 'no#1', '100%25', 'é/ü', '<b>'])(
		'%s',
		async (code) => {
			const at = encodeURIComponent(code);
			expect((await postJson(app.base, '/stations', { code, kind: 'reservoir' })).status).toBe(201);
			expect((await postJson(app.base, '/instruments', { code, kind: 'ph' })).status).toBe(201);
			expect((await ph({ station: code, instrument: code })).status).toBe(201);
			const series = await get(`/stations/${at}/series?quantity=ph&from=2026-01-01T00:00:00Z&to=2100-01-01T00:00:00Z`);
			expect([series.status, series.body.points?.length]).toEqual([200, 1]);
			expect((await get(`/readings?station=${at}`)).body.readings).toHaveLength(1);
			expect((await get(`/probes/${at}/ph`)).status).toBe(200);
			for (const page of [
				`/bench?station=${at}`,
				`/trends?station=${at}`,
				`/ledger/events?station=${at}`,
				`/probes/${at}/ph`,
			])
				expect([page, (await fetch(app.base + page)).status]).toEqual([page, 200]);
		},
	);
	it('a name of dots is a place in every address, and no code', async () => {
		for (const code of ['.', '..'])
			expect((await postJson(app.base, '/stations', { code, kind: 'reservoir' })).status).toBe(422);
	});
	it('a character that cannot be stored is a 422 or a 404, never a fault', async () => {
		for (const path of [
			'/readings?station=%00',
			'/stations/%00/series?quantity=ph&from=2026-01-01T00:00:00Z&to=2026-02-01T00:00:00Z',
			'/probes/%00/ph',
		])
			expect([path, (await get(path)).status]).toEqual([path, expect.toBeOneOf([404, 422])]);
		expect((await ph({ note: 'a\u0000b' })).status).toBe(422);
	});
});

describe('times that are none', () => {
	it.each([
		['beyond the last year there is', '9999-12-31T23:59:59-14:00'],
		['of before anybody logged', '1969-12-31T23:59:59Z'],
		['more than a year ahead', new Date(Date.now() + 400 * 86_400_000).toISOString()],
		['in a zone that is none', '2026-03-01T07:30:00+99:00'],
	])('%s: refused with what to do, for readings, events, calibrations and files', async (_, time) => {
		const refused = [
			await ph({ time }),
			await postJson(app.base, '/events', { station: 'pond', kind: 'note', note: 'x', time }),
			await postJson(app.base, '/calibrations', {
				instrument: 'plum',
				quantity: 'ph',
				kind: 'check',
				time,
				temp_c: 20,
				points: [{ standard: 'pH 7.00', as_found: 7 }],
			}),
		];
		for (const r of refused) {
			expect(r.status).toBe(422);
			expect(r.body.errors[0].message).toMatch(/\w/);
		}
		const csv = `time,station,instrument,quantity,value,unit,temp_c,note\n${time},pond,plum,ph,6.02,pH,,\n`;
		const file = await fetch(`${app.base}/api/v1/import`, {
			method: 'POST',
			body: csv,
			headers: { 'content-type': 'text/csv' },
		});
		expect([file.status, ((await file.json()) as Answer).report.problems[0].column]).toEqual([422, 'time']);
	});
	it('a site whose zone is none is refused', async () => {
		const r = await fetch(`${app.base}/api/v1/site`, {
			method: 'PUT',
			body: JSON.stringify({ name: 'Yard', timezone: 'Mars/Olympus' }),
		});
		expect(r.status).toBe(422);
	});
});

describe('a file of calibrations', () => {
	it('passes the judgement of typed ones: what could not be typed is not stored, the rest is', async () => {
		const line = (minute: number, standard: string, nominal: string, found: string) =>
			`2026-03-01T07:0${minute}:00Z,plum,ph,check,${standard},${nominal},${found},,20,`;
		const csv = [
			'time,instrument,quantity,kind,standard,nominal,as_found,as_left,temp_c,note',
			line(1, 'pH 7.00', '7', '7.02'),
			line(2, 'pH 7.00', '7', '700'),
			line(3, 'pH 7.00', '7', '4.05'),
			line(3, 'pH 4.01', '4', '7.03'),
			line(4, 'pH 7.00', '0', '7'),
		].join('\n');
		const send = async (query: string) =>
			(
				await fetch(`${app.base}/api/v1/import${query}`, {
					method: 'POST',
					body: csv,
					headers: { 'content-type': 'text/csv' },
				})
			).json() as Answer;
		const { report } = await send('');
		expect(report.problems.map((p: Answer) => p.line)).toEqual([3, 4, 5, 6]);
		expect(await send('?keep_good=1')).toMatchObject({ stored: 1, bad: 4 });
		expect((await get('/calibrations?instrument=plum')).body.calibrations).toHaveLength(1);
	});
});

describe('what is sent in pieces', () => {
	it('is not kept beyond its limit, and the server lives on', async () => {
		const status = await new Promise<number>((resolve, reject) => {
			const r = request(
				`${app.base}/api/v1/events`,
				{ method: 'POST', headers: { 'transfer-encoding': 'chunked' } },
				(answer) => {
					answer.resume();
					resolve(answer.statusCode!);
				},
			);
			r.on('error', reject);
			for (let i = 0; i < 6; i++) r.write(' '.repeat(1024 * 1024));
			r.end('{}');
		});
		expect(status).toBe(413);
		expect((await get('/health')).status).toBe(200);
	});
});

describe('a database of a newer version', () => {
	it('is left alone, and said what to do', () =>
		withInstallation('empty', async (pool) => {
			await pool.query("INSERT INTO schema_version (version, name) VALUES (999, 'later')");
			await expect(migrate(pool)).rejects.toThrow(/newer Cordwain.*Start the newer one/);
		}));
});
