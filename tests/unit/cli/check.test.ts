import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse as parseCsv } from 'csv-parse/sync';
import { afterAll, describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '../../..');

const dir = mkdtempSync(join(tmpdir(), 'cordwain-check-'));

afterAll(() => rmSync(dir, { recursive: true, force: true }));

describe('the headless checker', () => {
	const check = (csv: string | Buffer, ...more: string[]) => {
		const file = join(dir, 'readings.csv');
		writeFileSync(file, csv);
		const done = spawnSync(process.execPath, ['ops/run.mjs', 'src/cli/check.ts', file, ...more], {
			cwd: root,
			encoding: 'utf8',
		});
		return { status: done.status, error: done.stderr, rows: (parseCsv(done.stdout) as string[][]).slice(1) };
	};
	const HEADER = 'time,station,instrument,quantity,value,unit,temp_c,wait_s,note\n';
	it('flags exactly the 1850 in mS/cm and the pH 59 of a twelve-line reservoir file', () => {
		const ph = ['5.91', '5.88', '5.93', '59', '5.90', '5.87'];
		const ec = ['1.80', '1.82', '1850', '1.79', '1.81', '1.83'];
		const csv =
			HEADER +
			ph
				.flatMap((v, d) => [
					`2026-03-0${d + 1}T07:30Z,pond,plum,ph,${v},pH,,,`,
					`2026-03-0${d + 1}T07:30Z,pond,plum,ec,${ec[d]},mS/cm,,,`,
				])
				.join('\n');
		const { rows, status } = check(csv);
		expect(status).toBe(0);
		expect(rows).toHaveLength(12);
		const flagged = rows.filter((r) => r[7] !== '1');
		expect(flagged.map((r) => [r[0], r[9], r[10]])).toEqual([
			['7', 'unit-slip', '1850'],
			['8', 'decimal-slip', '5.9'],
		]);
	});
	it('reports bad lines as flag 9 with the reason and goes on', () => {
		const { rows, status } = check(
			`${HEADER}2026-03-01T07:30Z,pond,,ph,abc,pH,,,\n2026-03-01T07:30Z,pond,,ph,,pH,,,\nrubbish\n2026-03-01T07:30Z,pond,,tds,900,ppm,,,\n2026-03-01T07:30Z,pond,,ec,1e999,mS/cm,,,\n2026-03-01T07:30Z,pond,,ph,5.9,pH,,,\n2026-03-02T07:30Z,pond,,ph,5.0..6.0,pH,,,\n`,
		);
		expect(status).toBe(0);
		expect(rows.map((r) => r[7])).toEqual(['9', '9', '9', '2', '9', '1', '1']);
	});
	it('columns in any order, semicolons and decimal commas, a configuration with zone and ranges', () => {
		const config = join(dir, 'config.json');
		writeFileSync(
			config,
			JSON.stringify({
				timezone: 'Europe/Amsterdam',
				stations: { pond: { kind: 'reservoir', range: { ph: [5.5, 6.5] } } },
				instruments: { minnow: { ppm_scale: 700 } },
			}),
		);
		const { rows, status } = check(
			'time;unit;value;quantity;station;instrument\n2026-03-01 07:30;ppm;1260,5;tds;pond;minnow\n2026-03-01 07:30;pH;8,9;ph;pond;\n',
			'--config',
			config,
		);
		expect(status).toBe(0);
		expect(rows.map((r) => [r[7], r[9]])).toEqual([
			['1', ''],
			['3', 'out-of-range'],
		]);
	});
	it('exits 2 and names line and column when the file cannot be read', () => {
		const { status, error } = check('time,station,value\n');
		expect(status).toBe(2);
		expect(error).toMatch(/line 1, column quantity/);
		expect(check('')).toMatchObject({ status: 2 });
		expect(check(Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 8])).status).toBe(2);
		expect(spawnSync('npm', ['run', '-s', 'check', '--', join(dir, 'none.csv')], { cwd: root }).status).toBe(2);
	});
	it('calibrations show drift: the reading is suspect, with what it truly was', () => {
		const calibrations = join(dir, 'calibrations.csv');
		writeFileSync(
			calibrations,
			'time,instrument,quantity,kind,standard,nominal,as_found,as_left,temp_c,note\n2026-03-01T07:00Z,plum,ph,adjust,pH 7.00,,7.00,7.00,25,\n2026-03-21T07:00Z,plum,ph,adjust,pH 7.00,7.00,7.40,7.00,25,\n',
		);
		const { rows } = check(
			`${HEADER}2026-03-11T07:00Z,pond,plum,ph,6.20,pH,,,\n2026-03-12T07:00Z,pond,,ph,6.20,pH,,,\n`,
			'--calibrations',
			calibrations,
		);
		expect(rows.map((r) => [r[7], r[9], r[10]])).toEqual([
			['3', 'drift', '6'],
			['1', '', ''],
		]);
	});
	it('events shift what is expected', () => {
		const events = join(dir, 'events.csv');
		writeFileSync(
			events,
			'time,station,kind,amount,unit,product,note\n2026-03-11T08:00Z,pond,nutrient_added,500,mL,feed,\n',
		);
		const day = (d: number, ec: string) => `2026-03-${String(d).padStart(2, '0')}T07:30Z,pond,plum,ec,${ec},mS/cm,,,\n`;
		const csv = HEADER + Array.from({ length: 11 }, (_, i) => day(i + 1, `1.8${i % 4}`)).join('') + day(12, '2.60');
		expect(check(csv).rows.at(-1)![9]).toBe('unlogged-addition');
		expect(check(csv, '--events', events).rows.at(-1)![7]).toBe('1');
	});
});
