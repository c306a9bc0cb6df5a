import { readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { describe, expect, it } from 'vitest';
import { type ImportOptions, importFile } from '@/service/import';
import { requireSite, siteForIntake } from '@/service/site';
import { judgeAllFrom } from '@/service/store-bulk';
import { createPool, type Pool } from '@/store/pool';
import { writing } from '@/store/writing';
import { startApplication } from '../helpers/application';
import { withDatabase } from '../helpers/database';
import { temporaryFile } from '../helpers/temporary-file';

const HEAD = 'time,station,instrument,quantity,value,unit\n';
const START = Date.UTC(2024, 0, 1);
const NOW = Date.UTC(2026, 4, 1);
const line = (minute: number, value: string, quantity = 'ph', unit = 'pH') =>
	`${new Date(START + minute * 60_000).toISOString()},pond,post,${quantity},${value},${unit}\n`;
/** pH and EC of one node, every ten minutes. */
const visits = (from: number, to: number): string => {
	let text = '';
	for (let i = from; i < to; i++)
		text +=
			line(10 * i, (5.9 + ((i * 37) % 11) / 100).toFixed(2)) +
			line(10 * i, (1.8 + ((i * 17) % 7) / 200).toFixed(3), 'ec', 'mS/cm');
	return text;
};
const take = async (pool: Pool, csv: string, more: Partial<ImportOptions> = {}) =>
	temporaryFile(csv, async (path) =>
		importFile(pool, await siteForIntake(pool), path, {
			dryRun: false,
			keepGood: false,
			who: 'grower',
			now: NOW,
			...more,
		}),
	);
const rows = async (pool: Pool, sql: string) => (await pool.query(sql)).rows;
const counts = async (pool: Pool) =>
	(
		await rows(
			pool,
			`SELECT (SELECT count(*) FROM reading) AS readings, (SELECT count(*) FROM verdict) AS verdicts, (SELECT count(*) FROM restatement) AS restatements,
				(SELECT count(*) FROM sample) AS samples, (SELECT count(*) FROM station) AS stations, (SELECT count(*) FROM station_memory) AS memories`,
		)
	)[0];
const verdicts = (pool: Pool) =>
	rows(
		pool,
		`SELECT r.at, r.quantity, r.digits, v.flag, v.cause, v.u, v.expected FROM reading r
		JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id ORDER BY r.at, r.quantity, r.digits`,
	);

describe('an import in one pass', () => {
	it('stores samples, verdicts and what the record of the probe makes of them, one each', () =>
		withDatabase('empty', async (pool) => {
			const report = await take(pool, HEAD + visits(0, 3000));
			expect(report).toMatchObject({ lines: 6000, stored: 6000, bad: 0, duplicates: 0 });
			expect(await counts(pool)).toMatchObject({
				readings: 6000,
				verdicts: 6000,
				restatements: 6000,
				samples: 3000,
				stations: 1,
			});
			expect(Object.values(report.flagged).reduce((a, b) => a + b, 0)).toBe(6000);
		}));
	it('gives the verdicts that judging all of it again gives, whether it comes in order, late in the middle or backwards', () =>
		withDatabase('empty', async (pool) => {
			// More than is stored at once comes in order before the first late line.
			const late = HEAD + visits(0, 1500) + visits(2000, 3400) + visits(1500, 2000);
			await take(pool, late);
			const asImported = await verdicts(pool);
			expect(await counts(pool)).toMatchObject({ readings: 6800, verdicts: 6800, restatements: 6800 });
			const site = await requireSite(pool);
			await writing(pool, (client) => judgeAllFrom(client, site, START, NOW));
			expect(await verdicts(pool)).toEqual(asImported);
			await withDatabase('empty', async (other) => {
				await take(other, HEAD + visits(0, 3400));
				expect(await verdicts(other)).toEqual(asImported);
			});
		}));
	it('many stations of one minute, cut between two of them, are no late lines', () =>
		withDatabase('empty', async (pool) => {
			let csv = HEAD;
			for (let minute = 0; minute < 20; minute++)
				for (let bed = 0; bed < 300; bed++) csv += line(10 * minute, '5.9').replace('pond', `bed-${bed}`);
			const phases = new Set<string>();
			const report = await take(pool, csv, { progress: (_, phase) => phases.add(phase) });
			expect(report).toMatchObject({ stored: 6000, duplicates: 0 });
			expect([...phases]).toEqual(['storing']);
		}));
	it('a bad line after thousands: nothing is stored, not even a station, and all that is wrong is told', () =>
		withDatabase('empty', async (pool) => {
			const before = await counts(pool);
			const csv = HEAD + visits(0, 3000) + line(40_000, 'x') + visits(4100, 4200) + line(50_000, 'y');
			const report = await take(pool, csv);
			expect(report).toMatchObject({ stored: 0, bad: 2, good: 6200, duplicates: 0, creates: { stations: ['pond'] } });
			expect(report.problems.map((p) => p.column)).toEqual(['value', 'value']);
			expect(await counts(pool)).toEqual(before);
			const good = await take(pool, csv, { keepGood: true });
			expect(good).toMatchObject({ stored: 6200, bad: 2 });
		}));
	it('one line twice in a file is stored twice and doubted; the file again changes nothing', () =>
		withDatabase('empty', async (pool) => {
			const twice = line(10 * 2999, '5.93');
			const csv = HEAD + visits(0, 2999) + twice + twice + visits(3000, 3500);
			const first = await take(pool, csv);
			expect(first).toMatchObject({ stored: first.lines, duplicates: 0 });
			const doubled = (await verdicts(pool)).filter((v) => v.cause === 'duplicate');
			expect(doubled).toHaveLength(1);
			expect(await take(pool, csv)).toMatchObject({ stored: 0, duplicates: first.lines });
		}));
	it('given up while it stores: nothing of it is left, and the site can be written to', () =>
		withDatabase('empty', async (pool) => {
			await siteForIntake(pool);
			const before = await counts(pool);
			const given = take(pool, HEAD + visits(0, 9000), {
				progress: (done, phase) => {
					if (phase === 'storing' && done >= 10_000) throw new Error('given up');
				},
			});
			await expect(given).rejects.toThrow('given up');
			expect(await counts(pool)).toEqual(before);
			expect(await take(pool, HEAD + visits(0, 10))).toMatchObject({ stored: 20 });
		}));
});

describe('over HTTP', () => {
	it('DELETE /jobs/{id} stops an import, which then has stored nothing; its upload is gone', async () => {
		const app = await startApplication('empty');
		const pool = createPool(app.databaseUrl);
		try {
			const begun = await fetch(`${app.base}/api/v1/import?background=1`, {
				method: 'POST',
				headers: { 'content-type': 'text/csv' },
				body: HEAD + visits(0, 60_000),
			});
			const { job } = (await begun.json()) as { job: string };
			const state = async (method: string) =>
				(await (await fetch(`${app.base}/api/v1/jobs/${job}`, { method })).json()) as {
					state: string;
					message: string;
					done: number;
				};
			while ((await state('GET')).done === 0) await new Promise((r) => setTimeout(r, 10));
			expect(await state('DELETE')).toMatchObject({ state: 'stopped', message: 'Stopped. Nothing of it was stored.' });
			expect(await state('DELETE')).toMatchObject({ state: 'stopped' });
			expect(await counts(pool)).toMatchObject({ readings: 0, samples: 0, stations: 0 });
			expect((await readdir(tmpdir())).filter((f) => f.startsWith(`cordwain-import-${app.pid}-`))).toEqual([]);
		} finally {
			await pool.end();
			await app.stop();
		}
	});
});
