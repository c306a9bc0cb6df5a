import { describe, expect, it } from 'vitest';
import { amendEarlier, isOpen } from '@/core/judge/amend';
import type { JudgeContext } from '@/core/judge/context';
import type { Quantity, Unit } from '@/core/quantity';
import { readingFromText } from '@/core/reading/from-text';
import type { Reading, Verdict } from '@/core/reading/model';
import { checkStream } from '@/files/check-stream';
import { seeded } from '@/sim/random';
import { DAY, MINUTE, START, stationOf } from '../../../helpers/small-site';

/** Parts that the engine is made of, each by itself. */
const read = (quantity: Quantity, value: string, unit: Unit, more: Partial<Reading> = {}): Reading => {
	const got = readingFromText({ quantity, value, unit, tempC: null, waitS: null }, { ppmScale: null, altitudeM: 0 });
	if (!got.ok) throw new Error(got.problem.code);
	return { ...got.value, at: 0, station: 'pond', instrument: 'plum', ...more };
};

describe('what has become sure explains what was before', () => {
	const verdict = (cause: string | null, more: Partial<Verdict> = {}): Verdict => ({
		flag: cause === null ? 1 : 3,
		deciding:
			cause === null
				? null
				: { check: cause, flag: 3, cause, suggested: null, said: { code: 'mixing' }, evidence: {}, weight: 1 },
		findings: [],
		expected: null,
		u: 0,
		inRange: null,
		...more,
	});
	const line = (at: number, cause: string | null, station = 'pond') => ({
		reading: read('ec', '1.90', 'mS/cm', { at, station }),
		verdict: verdict(cause),
	});
	it('back to its beginning, in its own series, and only what was sound or only begun', () => {
		const earlier = [
			line(1, null),
			line(2, null),
			line(3, 'spike'),
			line(4, 'span'),
			line(5, null, 'mix'),
			line(6, null),
		];
		amendEarlier(earlier, { reading: read('ec', '1.90', 'mS/cm', { at: 7 }), verdict: verdict('stuck', { since: 2 }) });
		expect(earlier.map((e) => e.verdict.deciding?.cause ?? '')).toEqual(['', 'stuck', 'stuck', 'span', '', 'stuck']);
		expect(earlier[1]!.verdict.flag).toBe(3);
	});
	it('nothing, where nothing is sure', () => {
		const earlier = [line(1, null)];
		amendEarlier(earlier, { reading: read('ec', '1.90', 'mS/cm', { at: 2 }), verdict: verdict('stuck') });
		expect(earlier[0]!.verdict.deciding).toBeNull();
	});
	it.each([
		[null, true],
		['', true],
		['gap', true],
		['unit-slip', false],
	])('a line that is %s may be explained later: %s', (cause, open) => {
		expect(isOpen(cause)).toBe(open);
	});
});

/** A five-minute sensor as a file, through the checker. */
async function flags(
	rows: readonly { minutes: number; ph?: number; ec?: number; hand?: boolean }[],
): Promise<Record<string, string>[]> {
	async function* csv() {
		yield 'time,station,instrument,quantity,value,unit\n';
		for (const r of rows) {
			const at = new Date(START + r.minutes * MINUTE).toISOString();
			if (r.ph !== undefined) yield `${at},tank,${r.hand ? 'plum' : 'post'},ph,${r.ph.toFixed(2)},pH\n`;
			if (r.ec !== undefined) yield `${at},tank,${r.hand ? 'plum' : 'post'},ec,${r.ec.toFixed(0)},uS/cm\n`;
		}
	}
	let out = '';
	const site: JudgeContext = { stations: new Map([stationOf('tank', 'reservoir')]), instruments: new Map() };
	for await (const line of checkStream({
		readings: csv(),
		events: [],
		site,
		zone: 'UTC',
		altitudeM: 0,
		now: () => START + 99 * DAY,
	}))
		out += line;
	const [head, ...lines] = out.trim().split('\n');
	return lines.map((l) => Object.fromEntries(l.split(',').map((c, i) => [head!.split(',')[i]!, c])));
}
const noisy = (n: number, seed: number) => {
	const chance = seeded(seed);
	return Array.from({ length: n }, (_, i) => ({
		minutes: 5 * i,
		ph: 6 + 0.015 * chance.normal(),
		ec: 1800 + 5 * chance.normal(),
	}));
};

describe('what becomes sure later is told of the lines before', () => {
	it('a flat line is flagged from its second value on (QARTOD flat line)', async () => {
		const rows = noisy(400, 3).map((r, i) => (i >= 350 && i < 380 ? { ...r, ph: 6.07 } : r));
		const ph = (await flags(rows)).filter((f) => f.quantity === 'ph');
		expect(ph.slice(351, 380).every((f) => f.cause === 'stuck')).toBe(true);
		expect(ph.slice(0, 350).filter((f) => f.flag !== '1')).toEqual([]);
		expect(ph.slice(380).every((f) => f.flag === '1')).toBe(true);
	});
	it('pH alone that leaves its level and stays is a calibration or a dose; with EC it is an addition; a return is a spike', async () => {
		const step = (from: number, to: number, by: { ph?: number; ec?: number }) =>
			noisy(200, 9).map((r, i) =>
				i >= from && i < to ? { ...r, ph: r.ph + (by.ph ?? 0), ec: r.ec + (by.ec ?? 0) } : r,
			);
		const causes = async (rows: ReturnType<typeof noisy>, quantity: string, from: number, to: number) => [
			...new Set(
				(await flags(rows))
					.filter((f) => f.quantity === quantity)
					.slice(from, to)
					.map((f) => f.cause),
			),
		];
		expect(await causes(step(120, 200, { ph: 0.5 }), 'ph', 120, 126)).toEqual(['calibration-step']);
		expect(await causes(step(120, 200, { ph: 0.5, ec: 400 }), 'ec', 120, 126)).toEqual(['unlogged-addition']);
		expect(await causes(step(120, 200, { ph: 0.5, ec: 400 }), 'ph', 120, 126)).toEqual(['unlogged-addition']);
		expect(await causes(step(120, 122, { ph: 1.4 }), 'ph', 120, 122)).toEqual(['spike']);
	});
	it('every line comes out once and in order, however long the file', async () => {
		const out = await flags(noisy(1500, 21));
		expect(out.map((f) => Number(f.line))).toEqual(Array.from({ length: 3000 }, (_, i) => i + 2));
	});
	it('a hole in the record is said of the first reading after it', async () => {
		const rows = noisy(200, 4).map((r, i) => (i >= 100 ? { ...r, minutes: r.minutes + 300 } : r));
		const said = (await flags(rows)).filter((f) => f.cause === 'gap');
		expect(said.map((f) => [f.line, f.flag])).toEqual([
			['202', '2'],
			['203', '2'],
		]);
	});
	it('a sensor that creeps away from the hand readings beside it is named with the likelier value', async () => {
		const rows = noisy(12 * 288, 8).flatMap((r, i) => {
			const offset = i > 4 * 288 ? (0.08 * (i - 4 * 288)) / 288 : 0;
			const own = { ...r, ph: r.ph + offset, ec: 1800 };
			return i % 288 === 100 ? [own, { minutes: r.minutes + 1, ph: r.ph, hand: true }] : [own];
		});
		const out = (await flags(rows)).filter((f) => f.quantity === 'ph' && f.instrument === 'post');
		const last = out.at(-1)!;
		expect(last.cause).toBe('drift');
		expect(Math.abs(Number(last.suggested) - 6)).toBeLessThan(0.3);
		expect(out.slice(0, 4 * 288).some((f) => f.cause === 'drift')).toBe(false);
	});
});
