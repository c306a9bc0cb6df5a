import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse as parseCsv } from 'csv-parse/sync';
import { afterAll, describe, expect, it } from 'vitest';
import { NO_EFFECT } from '@/core/judge/event-effect';
import { formatTime, parseTime, startOfDay, wallTime } from '@/core/quantity/time';
import { placeMark } from '@/core/reading/place-mark';
import { parseQuickLine, type QuickContext } from '@/core/reading/quick-line';
import { calibrationLine } from '@/files/calibrations-row';
import { checkConfig } from '@/files/check-config';
import { type CsvRecord, csvRecords, NotText } from '@/files/csv-stream';
import { eventRow } from '@/files/events-row';
import { readingRow } from '@/files/readings-row';
import { FORMATS, readHeader } from '@/files/table';

const root = join(import.meta.dirname, '../..');
const dir = mkdtempSync(join(tmpdir(), 'cordwain-check-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

async function* pieces(text: string, size = 7): AsyncGenerator<string> {
	for (let i = 0; i < text.length; i += size) yield text.slice(i, i + size);
}
async function records(text: string): Promise<CsvRecord[]> {
	const all: CsvRecord[] = [];
	for await (const r of csvRecords(pieces(text))) all.push(r);
	return all;
}

describe('times', () => {
	const ok = (text: string, zone = 'Europe/Amsterdam') => {
		const t = parseTime(text, zone);
		return t.ok ? `${formatTime(t.at)} ${t.local ?? 'offset'}` : 'refused';
	};
	// Directive 2000/84/EC: summer time begins and ends at 01:00 UTC on the last Sundays of March and October.
	it.each([
		['2026-03-01T07:30Z', '2026-03-01T07:30:00Z offset'],
		['2026-03-01T07:30:15.25+05:30', '2026-03-01T02:00:15.250Z offset'],
		['2026-03-01 07:30', '2026-03-01T06:30:00Z site-zone'],
		['2026-07-01T07:30', '2026-07-01T05:30:00Z site-zone'],
		['2026-10-25T02:30', '2026-10-25T00:30:00Z repeated-hour'],
		['2026-03-29T02:30', '2026-03-29T01:30:00Z skipped-hour'],
		['2026-02-30T00:00Z', 'refused'],
		['2026-13-01T00:00Z', 'refused'],
		['2026-03-01T07:30+15:00', 'refused'],
		['yesterday', 'refused'],
		['0026-03-01T00:00Z', 'refused'],
	])('%s', (text, result) => expect(ok(text)).toBe(result));
	it('a repeated hour with its offset is two instants', () => {
		expect(ok('2026-10-25T02:30+02:00')).not.toBe(ok('2026-10-25T02:30+01:00'));
	});
});

describe('CSV as people have it', () => {
	it('RFC 4180: quotes, doubled quotes, line ends inside quotes, CRLF', async () => {
		expect(await records('a,b\r\n"1,2","say ""x"""\r\n"two\nlines",3\r\n')).toEqual([
			{ line: 1, cells: ['a', 'b'], damage: null },
			{ line: 2, cells: ['1,2', 'say "x"'], damage: null },
			{ line: 3, cells: ['two\nlines', '3'], damage: null },
		]);
	});
	it('byte order mark, semicolons, blank lines', async () => {
		expect((await records('\uFEFFa;b\n\n1,5;2\n')).map((r) => [r.line, r.cells])).toEqual([
			[1, ['a', 'b']],
			[3, ['1,5', '2']],
		]);
	});
	it('a quote that never closes costs its own line and not the rest', async () => {
		const all = await records(`a,b\n1,"2\n${'3,4\n'.repeat(200)}`);
		expect(all[1]!.damage).toMatch(/never closed/);
		expect(all.filter((r) => r.damage === null)).toHaveLength(201);
		expect(all.at(-1)).toMatchObject({ line: 202, cells: ['3', '4'] });
	});
	it('refuses binary', async () => {
		await expect(records('a,b\n\u0000\u0001')).rejects.toThrow(NotText);
	});
});

describe('the quick line', () => {
	const context: QuickContext = {
		stations: [
			{ code: 'pond', name: 'Pond' },
			{ code: 'rain', name: 'Rain tank' },
			{ code: 'gutters-feed', name: 'Gutters feed' },
			{ code: 'gutters-drain', name: 'Gutters drain' },
		],
		instruments: [
			{ code: 'plum', name: 'Plum', ppmScale: null },
			{ code: 'minnow', name: 'Minnow', ppmScale: 700 },
		],
		ecUnit: 'mS/cm',
		tempUnit: 'C',
	};
	const parse = (line: string, c = context) => parseQuickLine(line, c);
	it('pond ph 5.8 ec 1.92 t 21.4', () => {
		expect(parse('pond ph 5.8 ec 1.92 t 21.4')).toMatchObject({
			station: 'pond',
			asks: [],
			readings: [
				{ quantity: 'ph', digits: '5.8', unit: 'pH' },
				{ quantity: 'ec', digits: '1.92', unit: 'mS/cm' },
				{ quantity: 'temp', digits: '21.4', unit: 'C' },
			],
		});
	});
	it('rain 36ppm takes the only ppm meter’s scale; with two it asks', () => {
		expect(parse('rain 36ppm')).toMatchObject({
			station: 'rain',
			instrument: 'minnow',
			readings: [{ quantity: 'tds', digits: '36', unit: 'ppm700' }],
			asks: [],
		});
		const two = { ...context, instruments: [...context.instruments, { code: 'b', name: 'B', ppmScale: 500 as const }] };
		expect(parse('rain 36ppm', two).asks).toEqual([{ about: 'ppm-scale' }]);
		expect(parse('rain 36ppm with b', two)).toMatchObject({ asks: [], readings: [{ unit: 'ppm500' }] });
	});
	it('gutters drain 6.4 2.9: numbers without a word are pH, then EC', () => {
		expect(parse('gutters drain 6.4 2.9')).toMatchObject({
			station: 'gutters-drain',
			readings: [
				{ quantity: 'ph', digits: '6.4' },
				{ quantity: 'ec', digits: '2.9' },
			],
			asks: [],
		});
	});
	it('asks only what is ambiguous', () => {
		expect(parse('gutters 6.4').asks).toEqual([{ about: 'station', candidates: ['gutters-feed', 'gutters-drain'] }]);
		expect(parse('pond ph five').asks).toEqual([{ about: 'word', word: 'five' }]);
		expect(parse('pond').asks).toEqual([{ about: 'value' }]);
	});
	it('takes units, commas, an instrument, an interval and a note', () => {
		expect(parse('pond ph 5,8 ec 1920 us t 70F by plum # after rain')).toMatchObject({
			instrument: 'plum',
			note: 'after rain',
			readings: [{ digits: '5.8' }, { digits: '1920', unit: 'uS/cm' }, { digits: '70', unit: 'F' }],
			asks: [],
		});
		expect(parse('pond ph 5.0..6.0').readings[0]).toMatchObject({ digits: '5.0..6.0' });
	});
	it('puts the decimal mark where the station’s expectation says, and leaves fitting digits alone', () => {
		const at = (level: number) => ({ level, spread: 0.1, from: 9, seen: 9, event: NO_EFFECT });
		expect(placeMark('58', 'ph', 'pH', at(5.9))).toBe('5.8');
		expect(placeMark('214', 'temp', 'C', at(21))).toBe('21.4');
		expect(placeMark('192', 'ec', 'mS/cm', at(Math.log(1950)))).toBe('1.92');
		expect(placeMark('950', 'ec', 'ppm500', at(Math.log(1950)))).toBe('950');
		expect(placeMark('7', 'ph', 'pH', at(5.9))).toBe('7');
		expect(placeMark('58', 'ph', 'pH', null)).toBe('58');
	});
});

describe('the headless checker', () => {
	const check = (csv: string | Buffer, ...more: string[]) => {
		const file = join(dir, 'readings.csv');
		writeFileSync(file, csv);
		const done = spawnSync(process.execPath, ['--import', 'tsx', 'src/cli/check.ts', file, ...more], {
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

describe('docs/formats.md is true', () => {
	const examples = [
		...readFileSync(join(root, 'docs/formats.md'), 'utf8').matchAll(/```(csv|json) (\w+)\n([\s\S]*?)```/g),
	].map((m) => ({ kind: m[2]!, text: m[3]! }));
	it('has an example of each format', () =>
		expect(examples.map((e) => e.kind)).toEqual(expect.arrayContaining(['readings', 'events', 'config'])));
	it('every line of its readings and events is understood, under its own configuration', async () => {
		const config = checkConfig.parse(JSON.parse(examples.find((e) => e.kind === 'config')!.text));
		for (const { kind, text } of examples.filter((e) => e.kind !== 'config')) {
			const [head, ...rows] = await records(text);
			const header = readHeader(head!.cells, FORMATS.find((f) => f.name === kind)!);
			if (!header.ok) throw new Error(header.problem.message);
			for (const r of rows) {
				const result =
					kind === 'readings'
						? readingRow(r.cells, header.header, { zone: config.timezone!, ppmScale: () => null })
						: kind === 'events'
							? eventRow(r.cells, header.header, 'UTC')
							: calibrationLine(r.cells, header.header, 'UTC', () => undefined);
				expect(result).toMatchObject({ ok: true });
			}
		}
	});
});

describe('days of the site', () => {
	const at = (text: string | null): string => (text === null ? '' : formatTime(startOfDay(text, 'Europe/Amsterdam')!));
	it('begin at its midnight, an hour earlier in summer (CET and CEST: IANA time zone database)', () => {
		expect(at('2026-01-15')).toBe('2026-01-14T23:00:00Z');
		expect(at('2026-07-15')).toBe('2026-07-14T22:00:00Z');
		// The day on which the clocks go forward has 23 hours.
		expect(Date.parse(at('2026-03-30')) - Date.parse(at('2026-03-29'))).toBe(23 * 3_600_000);
		expect(startOfDay('', 'Europe/Amsterdam')).toBeNull();
		expect(startOfDay('2026-02-30', 'Europe/Amsterdam')).toBeNull();
	});
	it('the clock on the wall, for an axis of days', () => {
		expect(wallTime(Date.UTC(2026, 6, 14, 22), 'Europe/Amsterdam')).toBe(Date.UTC(2026, 6, 15));
		expect(wallTime(Date.UTC(2026, 0, 14, 22), 'Pacific/Auckland')).toBe(Date.UTC(2026, 0, 15, 11));
	});
});
