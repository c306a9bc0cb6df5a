import { cpSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { correctReading, correctReadings } from '@/service/correct';
import { decide, undoLast } from '@/service/decide';
import { enterSamples } from '@/service/enter';
import { eventsCsv, readingsCsv } from '@/service/export';
import { importFile } from '@/service/import';
import { judgeWhatIsDue } from '@/service/judging';
import { shownReading } from '@/service/reading-shown';
import { requireSite, siteForIntake } from '@/service/site';
import { listBatches } from '@/store/batches';
import { correctionChain, standingOfSample } from '@/store/corrections';
import { migrate } from '@/store/migrate';
import type { Pool } from '@/store/pool';
import { countReadings, listReadings } from '@/store/readings';
import { listRecipes } from '@/store/recipes';
import { withDatabase, withInstallation } from '../helpers/database';
import { DEMO_NOW } from '../helpers/global-setup';
import { temporaryFile } from '../helpers/temporary-file';

const by = { source: 'bench', who: 'grower', now: DEMO_NOW };
const typed = (value: string, quantity: 'ph' | 'ec' = 'ph') => ({
	quantity,
	value,
	unit: quantity === 'ph' ? 'pH' : 'mS/cm',
	instrument: 'plum',
});
const collect = async (pieces: AsyncGenerator<string>) => {
	let text = '';
	for await (const p of pieces) text += p;
	return text;
};

const importText = (pool: Pool, text: string | Buffer, options: Partial<Parameters<typeof importFile>[3]> = {}) =>
	temporaryFile(text, async (path) =>
		importFile(pool, await siteForIntake(pool), path, {
			dryRun: false,
			keepGood: false,
			who: 'grower',
			now: DEMO_NOW,
			...options,
		}),
	);

describe('migrations', () => {
	it('are applied once, and an edited old one is refused', () =>
		withInstallation('empty', async (pool) => {
			expect(await migrate(pool)).toBe(0);
			const dir = mkdtempSync(join(tmpdir(), 'cordwain-migrations-'));
			cpSync(join(import.meta.dirname, '../../src/store/migrations'), dir, { recursive: true });
			writeFileSync(join(dir, '001.do.base.sql'), 'SELECT 1');
			await expect(migrate(pool, dir)).rejects.toThrow(/changed since/);
			rmSync(dir, { recursive: true });
		}));
});

describe('a database of before', () => {
	/** As the first eight migrations left it, with what a grower had in it then. */
	const withOld = (fill: string, work: (pool: Pool) => Promise<void>) =>
		withDatabase('blank', async (pool) => {
			const dir = mkdtempSync(join(tmpdir(), 'cordwain-migrations-'));
			cpSync(join(import.meta.dirname, '../../src/store/migrations'), dir, { recursive: true });
			const later = readdirSync(dir).filter((f) => f > '009');
			for (const f of later) rmSync(join(dir, f));
			await migrate(pool, dir);
			rmSync(dir, { recursive: true });
			await pool.query(`INSERT INTO site (name, timezone) VALUES ('Yard', 'UTC');
				INSERT INTO judging (site_id, engine) VALUES (1, 4);
				INSERT INTO station (site_id, id, code, name, kind) VALUES (1, 5, 'pond', 'Pond', 'reservoir');
				${fill}`);
			expect(await migrate(pool)).toBe(later.length);
			await work(pool);
		});
	it('keeps the steps of a batch, however their times were written', () =>
		withOld(
			`INSERT INTO batch (site_id, id, station_id, plan, log) VALUES (1, 9, 5, '{"litres": 100, "parts": 2}',
				'[{"at": 1783411200000, "step": "part", "words": "250 mL of part A", "amount": 250, "expected": null, "measured": null},
				{"at": "2026-07-07T08:20:00Z", "step": "ec", "words": "EC 1.86", "expected": 1850, "measured": 1860, "flag": 3, "doubt": "It jumps."}]')`,
			async (pool) => {
				expect((await listBatches(pool, 1, 10)).map((b) => b.log)).toEqual([
					[
						{
							at: 1783411200000,
							step: 'part',
							words: '250 mL of part A',
							amount: 250,
							expected: null,
							measured: null,
							flag: null,
							doubt: null,
							readingId: null,
						},
						{
							at: Date.UTC(2026, 6, 7, 8, 20),
							step: 'ec',
							words: 'EC 1.86',
							amount: null,
							expected: 1850,
							measured: 1860,
							flag: 3,
							doubt: 'It jumps.',
							readingId: null,
						},
					],
				]);
			},
		));
	it('keeps what a batch poured and a recipe is made of, product by product', () =>
		withOld(
			`INSERT INTO product (site_id, id, name, kind, parts) VALUES (1, 20, 'feed A and B', 'nutrient', 2);
			INSERT INTO recipe (site_id, id, name, product_id, target_ec) VALUES (1, 21, 'leaf', 20, 1900);
			INSERT INTO batch (site_id, id, station_id, plan, log) VALUES (1, 9, 5,
				'{"litres": 100, "water": null, "waterEcUsCm": 780, "product": "feed A and B", "mlPerL": 2.5, "parts": 2, "targetEcUsCm": 1850, "targetPh": 5.8}', '[]'),
				(1, 10, 5, '{"litres": 50, "water": null, "waterEcUsCm": 30, "product": "salts", "mlPerL": 1.2, "unit": "g", "parts": 1, "targetEcUsCm": null, "targetPh": null}', '[]')`,
			async (pool) => {
				const plans = (await listBatches(pool, 1, 10)).map((b) => b.plan).sort((a, b) => b.litres - a.litres);
				const pour = { perL: 2.5, unit: 'mL', waitMin: 0, scales: true, product: 'feed A and B' };
				expect(plans).toEqual([
					{
						litres: 100,
						water: null,
						waterEcUsCm: 780,
						targetEcUsCm: 1850,
						targetPh: 5.8,
						pours: [
							{ ...pour, bottle: 'A' },
							{ ...pour, bottle: 'B' },
						],
					},
					{
						litres: 50,
						water: null,
						waterEcUsCm: 30,
						targetEcUsCm: null,
						targetPh: null,
						pours: [{ ...pour, product: 'salts', perL: 1.2, unit: 'g', bottle: '' }],
					},
				]);
				expect(await listRecipes(pool, 1)).toMatchObject([
					{
						name: 'leaf',
						parts: [{ product: 'feed A and B', perL: null, scales: true, waitMin: 0, stockTank: '' }],
						stages: {},
						injector: null,
					},
				]);
			},
		));
	const reading = (id: number, digits: string, supersedes = 'NULL') =>
		`INSERT INTO reading (site_id, id, sample_id, at, station_id, quantity, digits, unit_text, unit, value, supersedes, source)
			VALUES (1, ${id}, 1, '2026-07-01T08:00:00Z', 5, 'ph', '${digits}', 'pH', 'pH', ${digits}, ${supersedes}, 'bench');
		INSERT INTO verdict (site_id, reading_id, engine, flag, check_code, cause, u, message, next_step)
			VALUES (1, ${id}, 4, 4, 'span', 'out-of-range', 0.1, 'It is beyond any meter.', 'Look again.');`;
	const decision = (id: number, kind: string) =>
		`INSERT INTO decision (site_id, reading_id, kind, reason) VALUES (1, ${id}, '${kind}', 'so it was');`;

	it('keeps what was found in words, and it is judged again into codes', () =>
		withOld(reading(1, '61'), async (pool) => {
			const read = async () => (await listReadings(pool, 1, { limit: 1 }))[0]!;
			expect(shownReading(await read())).toMatchObject({ message: 'It is beyond any meter.', nextStep: 'Look again.' });
			await judgeWhatIsDue(pool, 1, DEMO_NOW);
			expect((await read()).said).toMatchObject({ code: 'slip', value: 61, meant: 6.1, how: { code: 'mark-one-off' } });
		}));
	it('keeps where each reading stands: decided, corrected, and a correction that was taken back', () =>
		withOld(
			[
				reading(1, '61'),
				reading(2, '6.1', '1'),
				reading(3, '58'),
				reading(4, '5.8', '3'),
				reading(6, '62'),
				decision(4, 'undo'),
				decision(6, 'keep'),
				decision(6, 'discard'),
			].join('\n'),
			async (pool) => {
				const rows = await listReadings(pool, 1, { all: true, order: 'oldest', limit: 10 });
				expect(rows.map((r) => [r.id, r.decision, r.superseded])).toEqual([
					[1, null, true],
					[2, null, false],
					[3, null, false],
					[4, 'undo', false],
					[6, 'discard', false],
				]);
			},
		));
});

describe('readings are never overwritten', () => {
	it('the database itself refuses to change or delete a reading', () =>
		// Nor does it let the owner of the tables.
		withInstallation('demo', async (pool) => {
			await expect(pool.query('UPDATE reading SET value = 7')).rejects.toThrow(/append-only/);
			await expect(pool.query('DELETE FROM reading')).rejects.toThrow(/append-only/);
			await expect(pool.query('DELETE FROM decision')).rejects.toThrow(/append-only/);
			for (const table of [
				'reading',
				'reading_everywhere',
				'decision',
				'event',
				'calibration',
				'sample',
				'answered',
				'audit',
			])
				await expect(pool.query(`TRUNCATE ${table} CASCADE`)).rejects.toThrow(/append-only/);
		}));
	it('a correction stands beside its original; undo is a decision', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const [entered] = await enterSamples(
				pool,
				site,
				[{ at: DEMO_NOW, station: 'pond', readings: [typed('62.3'), typed('2.05', 'ec')] }],
				by,
			);
			const [ph, ec] = entered!.readings;
			expect(ph!.verdict).toMatchObject({ flag: 4, deciding: { cause: 'decimal-slip' } });
			expect(ph!.verdict.deciding!.suggested).toBeCloseTo(6.23, 6);
			expect(ec!.verdict.flag).toBe(1);
			await correctReading(pool, site, ph!.id, { value: '6.23', unit: 'pH', reason: 'slip' }, by);
			const chain = await correctionChain(pool, site.site.id, ph!.id);
			expect(chain.map((r) => [r.digits, r.superseded, r.flag])).toEqual([
				['62.3', true, 4],
				['6.23', false, 1],
			]);
			await expect(correctReading(pool, site, ph!.id, { value: '6.3', unit: 'pH', reason: '' }, by)).rejects.toThrow(
				/corrected meanwhile/,
			);
			const before = await countReadings(pool, site.site.id, {});
			await enterSamples(pool, site, [{ at: DEMO_NOW + 1000, station: 'slabs', readings: [typed('5.9')] }], by);
			const undone = await undoLast(pool, site, by);
			expect(undone.map((r) => r.station)).toEqual(['slabs']);
			expect(await countReadings(pool, site.site.id, {})).toBe(before);
			expect(await countReadings(pool, site.site.id, { all: true })).toBe(before + 2);
			await decide(pool, site, [{ id: undone[0]!.id }], { kind: 'restore', reason: '' }, by);
			expect(await countReadings(pool, site.site.id, {})).toBe(before + 1);
		}));
	it('a whole sample of another tank moves together; one reading alone leaves its sample', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const [entered] = await enterSamples(
				pool,
				site,
				[{ at: DEMO_NOW, station: 'pond', readings: [typed('6.1'), typed('2.05', 'ec')] }],
				by,
			);
			const [ph, ec] = entered!.readings;
			const moved = await correctReading(pool, site, ph!.id, { station: 'slabs', wholeSample: true, reason: '' }, by);
			expect(moved.sampleId).toBe(entered!.sampleId);
			expect(moved.readings.map((r) => [r.reading.station, r.reading.quantity, r.reading.digits])).toEqual([
				['slabs', 'ph', '6.1'],
				['slabs', 'ec', '2.05'],
			]);
			expect((await correctionChain(pool, site.site.id, ec!.id)).map((r) => [r.station, r.superseded])).toEqual([
				['pond', true],
				['slabs', false],
			]);
			// A mate that was given up is not moved: it would count again.
			const [other] = await enterSamples(
				pool,
				site,
				[{ at: DEMO_NOW + 60_000, station: 'pond', readings: [typed('6.1'), typed('2.05', 'ec')] }],
				{ ...by, now: DEMO_NOW + 60_000 },
			);
			const [kept, given] = other!.readings;
			await decide(pool, site, [{ id: given!.id }], { kind: 'discard', reason: 'air' }, by);
			const rest = await correctReading(pool, site, kept!.id, { station: 'slabs', wholeSample: true, reason: '' }, by);
			expect(rest.readings.map((r) => r.reading.quantity)).toEqual(['ph']);
			const alone = await correctReading(pool, site, moved.readings[1]!.id, { station: 'pond', reason: '' }, by);
			expect(alone.sampleId).not.toBe(entered!.sampleId);
			const left = await standingOfSample(pool, site.site.id, entered!.sampleId);
			expect(left.map((r) => [r.station, r.quantity])).toEqual([['slabs', 'ph']]);
		}));
	it('a second pen in the same cup stays the second pen', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const [cup] = await enterSamples(
				pool,
				site,
				[
					{
						at: DEMO_NOW,
						station: 'pond',
						readings: [
							{ ...typed('6.1'), instrument: 'plum' },
							{ ...typed('2.05', 'ec'), instrument: 'plum' },
							{ ...typed('6.3'), instrument: 'brass' },
						],
					},
				],
				by,
			);
			const change = { instrument: 'minnow', wholeSample: true, reason: '' };
			await correctReading(pool, site, cup!.readings[1]!.id, change, by);
			const stands = await standingOfSample(pool, site.site.id, cup!.sampleId);
			expect(stands.map((r) => [r.quantity, r.digits, r.instrument]).sort()).toEqual([
				['ec', '2.05', 'minnow'],
				['ph', '6.1', 'minnow'],
				['ph', '6.3', 'brass'],
			]);
		}));
	it('many at once: all of another meter, all or none; decided together', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const made = await enterSamples(
				pool,
				site,
				[1, 2, 3].map((i) => ({
					at: DEMO_NOW + i * 60_000,
					station: 'pond',
					readings: [typed('6.1'), typed('2.05', 'ec')],
				})),
				{ ...by, now: DEMO_NOW + 300_000 },
			);
			const ids = made.flatMap((s) => s.readings.map((r) => r.id));
			const later = { ...by, now: DEMO_NOW + 300_000 };
			await expect(
				correctReadings(pool, site, [...ids, 999_999_999], { instrument: 'brass', reason: '' }, later),
			).rejects.toThrow(/no reading/);
			const fixed = await correctReadings(pool, site, ids, { instrument: 'brass', reason: 'took the old pen' }, later);
			expect(fixed.map((s) => s.sampleId)).toEqual(made.map((s) => s.sampleId));
			const now = fixed.flatMap((s) => s.readings);
			expect(now.every((r) => r.reading.instrument === 'brass' && r.reading.station === 'pond')).toBe(true);
			await expect(correctReadings(pool, site, ids, { instrument: 'plum', reason: '' }, later)).rejects.toThrow(
				/corrected meanwhile/,
			);
			const seen = now.map((r) => ({ id: r.id }));
			await decide(pool, site, seen, { kind: 'discard', reason: 'old pen' }, later);
			// Somebody else did not see that; then none of them is kept.
			await expect(decide(pool, site, seen, { kind: 'keep', reason: '' }, later)).rejects.toThrow(/decided meanwhile/);
			await decide(
				pool,
				site,
				seen.map((s) => ({ ...s, after: 'discard' })),
				{ kind: 'keep', reason: '' },
				later,
			);
			const stands = await standingOfSample(pool, site.site.id, made[0]!.sampleId);
			expect(stands.map((r) => r.decision)).toEqual(['keep', 'keep']);
		}));
	it('discarding wants a reason', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const [doubtful] = await listReadings(pool, site.site.id, { flags: [3, 4], undecided: true, limit: 1 });
			await expect(
				decide(pool, site, [{ id: doubtful!.id }], { kind: 'discard', reason: ' ' }, { who: 'grower', now: DEMO_NOW }),
			).rejects.toThrow(/Say why/);
		}));
});

describe('the demo tells the truth', () => {
	it('finds faults in the eight months and lets honest readings pass', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const flagged = await listReadings(pool, site.site.id, { flags: [3, 4], limit: 1000 });
			const total = await countReadings(pool, site.site.id, {});
			expect(total).toBeGreaterThan(2500);
			expect(flagged.length).toBeGreaterThan(10);
			// Readings of the pen that nobody calibrates are doubted as such; of the others hardly any.
			const ofPens = flagged.filter((r) => r.cause.startsWith('calibration'));
			expect(new Set(ofPens.map((r) => r.instrument))).toEqual(new Set(['brass']));
			expect((flagged.length - ofPens.length) / total).toBeLessThan(0.02);
			expect(flagged.length / total).toBeLessThan(0.08);
			expect(new Set(flagged.map((r) => r.cause)).size).toBeGreaterThan(3);
		}));
});

describe('files in and out', () => {
	it('export, import into an empty installation, export again: the same bytes', () =>
		withDatabase('demo', (from) =>
			withDatabase('empty', async (to) => {
				const source = await requireSite(from);
				const first = {
					readings: await collect(readingsCsv(from, source, {})),
					events: await collect(eventsCsv(from, source, {})),
				};
				await importText(to, first.events);
				await importText(to, first.readings);
				const target = await requireSite(to);
				expect(await collect(eventsCsv(to, target, {}))).toBe(first.events);
				expect(await collect(readingsCsv(to, target, {}))).toBe(first.readings);
				const again = await importText(to, first.readings);
				expect(again).toMatchObject({ stored: 0, bad: 0, duplicates: again.lines });
			}),
		));
	it('keeps unknown columns, commas and quotes with the row', () =>
		withDatabase('empty', async (pool) => {
			const csv =
				'time,station,instrument,quantity,value,unit,temp_c,wait_s,note,batch,zz\n2026-03-01T07:30:00Z,pond,plum,ph,5.80,pH,21.4,30,"a ""b"", c",7,\n2026-03-02T07:30:00Z,pond,,tds,900,ppm500,,,,,"x,y"\n';
			await importText(pool, csv);
			expect(await collect(readingsCsv(pool, await requireSite(pool), {}))).toBe(csv);
		}));
	it('a dry run writes nothing; bad lines keep all out unless the good are asked for', () =>
		withDatabase('empty', async (pool) => {
			const good = Array.from(
				{ length: 9800 },
				(_, i) => `${new Date(DEMO_NOW - 864e5 * 60 + i * 6e5).toISOString()},pond,plum,ph,5.${80 + (i % 10)},pH`,
			);
			const lines = ['time,station,instrument,quantity,value,unit', ...good];
			for (let i = 0; i < 200; i++)
				lines.splice(
					1 + i * 40,
					0,
					[
						'2026-03-01T07:30Z,pond,plum,ph,abc,pH',
						'1,2',
						'2026-13-01T07:30Z,pond,,ph,6,pH',
						'2026-03-01T07:30Z,pond,,ph,6,furlong',
					][i % 4]!,
				);
			const dry = await importText(pool, lines.join('\n'), { dryRun: true });
			expect(dry).toMatchObject({
				lines: 10_000,
				good: 9800,
				bad: 200,
				stored: 0,
				creates: { stations: ['pond'], instruments: ['plum'] },
			});
			expect(dry.problems[0]).toMatchObject({ line: 2, column: 'value' });
			expect(await importText(pool, lines.join('\n'))).toMatchObject({ stored: 0 });
			expect((await siteForIntake(pool)).stations).toEqual([]);
			expect(await importText(pool, lines.join('\n'), { keepGood: true })).toMatchObject({ stored: 9800 });
		}));
	it('refuses a wrong header and binary with what to do', () =>
		withDatabase('empty', async (pool) => {
			await expect(importText(pool, 'a,b,c\n1,2,3\n')).rejects.toThrow(/readings file begins with time/);
			await expect(importText(pool, '')).rejects.toThrow(/empty/);
			await expect(importText(pool, Buffer.from([1, 0, 2, 0, 10]))).rejects.toThrow(/no text/);
		}));
	it('names with quotes, HTML and emoji are just names', () =>
		withDatabase('empty', async (pool) => {
			const name = `O'Brien "x" <b>&amp; 🌱`;
			await importText(
				pool,
				`time,station,instrument,quantity,value,unit\n2026-03-01T07:30Z,"${name.replaceAll('"', '""')}",,ph,6,pH\n`,
			);
			const site = await requireSite(pool);
			expect(site.stations.map((s) => s.code)).toEqual([name]);
			expect(await collect(readingsCsv(pool, site, {}))).toContain(name.replaceAll('"', '""'));
		}));
});
