import { describe, expect, it } from 'vitest';
import type { JudgeContext } from '@/core/judge/context';
import { countSwing, noRhythm, swing } from '@/core/judge/day-rhythm';
import { Engine } from '@/core/judge/engine';
import { compareWith, driftOf, noDrift } from '@/core/judge/second-instrument';
import type { Quantity, Unit } from '@/core/quantity';
import type { ProbeState, Reading, WaterEvent } from '@/core/reading/model';
import { checkStream } from '@/files/check-stream';
import { seeded } from '@/sim/random';
import { DAY, MINUTE, NEXT, practised, reading, START, stationOf } from '../../../helpers/small-site';

/** Facts of the trade (common practice, no source) unless a source is named. */
const judged = (e: Engine, r: Reading) => e.judge([r])[0]!;

describe('a step that was left out', () => {
	it('a skipped rinse turns a small excess in pure water into carry-over', () => {
		const e = practised();
		const plain = reading(NEXT, 'ro', 'ec', '36', 'uS/cm');
		expect(judged(e, plain).flag).toBe(1);
		expect(judged(e, { ...plain, skipped: ['rinse'] })).toMatchObject({ flag: 3, deciding: { cause: 'carry-over' } });
		// Salt only ever adds: a value that is low is not carried over.
		expect(judged(e, reading(NEXT, 'ro', 'ec', '20', 'uS/cm', { skipped: ['rinse'] })).deciding?.cause).not.toBe(
			'carry-over',
		);
	});
	it('the first dip of the round, from a combined pen, has the storage cap to blame', () => {
		const [, ec] = practised().judge([
			reading(NEXT, 'ro', 'ph', '6.2', 'pH'),
			reading(NEXT, 'ro', 'ec', '170', 'uS/cm'),
		]);
		expect(ec?.deciding?.cause).toBe('carry-over');
		expect(ec?.deciding?.evidence.before).toBe('storage');
	});
});

describe('compensation switched off on a meter that has it', () => {
	it('1800 µS/cm at 15 °C shows as 1440, is noticed, and the value at 25 °C is offered', () => {
		// By hand: raw = 1800 · (1 + 0.02 · (15 − 25)) = 1440.
		const v = judged(practised(), reading(NEXT, 'pond', 'ec', '1440', 'uS/cm', { tempC: 15 }));
		expect(v.deciding?.cause).toBe('no-compensation');
		expect(v.deciding?.suggested).toBeCloseTo(1800, 0);
	});
	it('is not blamed near 25 °C, on the wrong side, or without a temperature', () => {
		const e = practised();
		for (const more of [{ tempC: 24 }, { tempC: 35 }, { tempC: null }])
			expect(judged(e, reading(NEXT, 'pond', 'ec', '1440', 'uS/cm', more)).deciding?.cause).not.toBe('no-compensation');
	});
});

describe('before and after a mix', () => {
	const reading12hAfter = (kind: WaterEvent['kind'], quantity: Quantity, digits: string, unit: Unit) => {
		const e = practised();
		e.note({ at: NEXT - DAY / 2, station: 'pond', kind, amount: null, unit: null });
		return judged(e, reading(NEXT, 'pond', quantity, digits, unit)).deciding?.cause;
	};
	it('adding nutrients must raise EC, water lowers it, acid lowers pH, base raises it', () => {
		expect(reading12hAfter('nutrient_added', 'ec', '2150', 'uS/cm')).toBeUndefined();
		expect(reading12hAfter('nutrient_added', 'ec', '1500', 'uS/cm')).toBe('against-event');
		expect(reading12hAfter('water_added', 'ec', '2150', 'uS/cm')).toBe('against-event');
		expect(reading12hAfter('acid_added', 'ph', '5.3', 'pH')).toBeUndefined();
		expect(reading12hAfter('acid_added', 'ph', '6.5', 'pH')).toBe('against-event');
		expect(reading12hAfter('base_added', 'ph', '5.3', 'pH')).toBe('against-event');
	});
});

describe('doses by the size typed', () => {
	it('after three doses the next one is expected to do what its size says', () => {
		const e = practised();
		let at = NEXT;
		let ph = 5.92;
		const dose = (ml: number, takesDown: number) => {
			e.note({ at: at + MINUTE, station: 'pond', kind: 'acid_added', amount: ml, unit: null });
			ph -= takesDown;
			at += 3 * 3_600_000;
			e.take([reading(at, 'pond', 'ph', ph.toFixed(2), 'pH')]);
			ph += takesDown;
			for (let k = 0; k < 4; k++) {
				at += DAY / 4;
				if (k === 0) e.note({ at: at - MINUTE, station: 'pond', kind: 'base_added', amount: null, unit: null });
				e.take([reading(at, 'pond', 'ph', ph.toFixed(2), 'pH')]);
			}
		};
		for (const ml of [20, 30, 20]) dose(ml, ml * 0.015);
		e.note({ at: at + MINUTE, station: 'pond', kind: 'acid_added', amount: 40, unit: null });
		const next = e.expect('pond', 'ph', at + 3 * 3_600_000)!;
		expect(next.level).toBeCloseTo(ph - 0.6, 1);
		// Twice the dose moves twice as far; one that did nothing is asked about.
		expect(judged(e, reading(at + 3 * 3_600_000, 'pond', 'ph', (ph - 0.6).toFixed(2), 'pH')).flag).toBe(1);
		expect(judged(e, reading(at + 3 * 3_600_000, 'pond', 'ph', (ph + 0.5).toFixed(2), 'pH')).flag).toBe(3);
	});
});

describe('what is known of the probe', () => {
	const withProbe = (state: ProbeState) =>
		practised({ probe: (code, q) => (code === 'plum' && q === 'ph' ? state : null) });
	const fresh: ProbeState = { at: NEXT - 3 * DAY, verdict: 'good', tempC: 21, intervalDays: 7 };
	const cause = (state: ProbeState, more: Partial<Reading> = {}) =>
		judged(withProbe(state), reading(NEXT, 'pond', 'ph', '5.9', 'pH', more)).deciding?.cause;
	it('a fresh one says nothing; a failed, a long overdue and one far from its temperature do', () => {
		expect(cause(fresh)).toBeUndefined();
		expect(cause({ ...fresh, verdict: 'fail' })).toBe('calibration-failed');
		expect(cause({ ...fresh, at: NEXT - 13 * DAY })).toBeUndefined();
		expect(cause({ ...fresh, at: NEXT - 15 * DAY })).toBe('calibration-overdue');
		expect(cause(fresh, { tempC: 31.5 })).toBe('temperature-far');
		expect(cause(fresh, { tempC: 30 })).toBeUndefined();
	});
});

describe('sensitivity', () => {
	it('keen asks about what calm lets pass', () => {
		const value = reading(NEXT, 'pond', 'ph', '6.28', 'pH');
		const flags = [0.8, 1, 1.3].map((tolerance) => judged(practised({ tolerance }), value).flag);
		expect(flags).toEqual([3, 1, 1]);
		expect(judged(practised({ tolerance: 1.3 }), reading(NEXT, 'pond', 'ph', '6.75', 'pH')).flag).toBe(3);
	});
});

describe('two instruments at one station minutes apart', () => {
	it('are held against each other, but not across an addition', () => {
		const e = practised();
		e.take([reading(NEXT, 'pond', 'ph', '5.90', 'pH')]);
		const other = reading(NEXT + 5 * MINUTE, 'pond', 'ph', '6.50', 'pH', { instrument: 'brass' });
		expect(judged(e, other).deciding?.cause).toBe('disagreement');
		e.note({ at: NEXT + 2 * MINUTE, station: 'pond', kind: 'base_added', amount: null, unit: null });
		expect(judged(e, other).deciding).toBeNull();
	});
});

describe('slow drift by CUSUM', () => {
	it('adds up as worked by hand: five differences of two standard deviations cross h = 5 at the fourth', () => {
		// C = max(0, C + z − k), z = 2, k = 0.5: 1.5, 3, 4.5, 6 > 5 (Montgomery’s tabular CUSUM).
		const d = noDrift(0);
		const alarms = [1, 2, 3, 4, 5].map((i) => {
			compareWith(d, 'ph', i, 6.2, 6.0, 'plum');
			return driftOf(d) !== null;
		});
		expect(d.up).toBeCloseTo(7.5, 9);
		expect(alarms).toEqual([false, false, false, true, true]);
		expect(driftOf(d)?.offset).toBeCloseTo(0.2, 9);
	});
	it('a single slip of the hand moves nothing; two calm comparisons withdraw the alarm', () => {
		const d = noDrift(0);
		for (let i = 1; i <= 6; i++) compareWith(d, 'ph', i, 6.25, 6.0, 'plum');
		expect(driftOf(d)).not.toBeNull();
		compareWith(d, 'ph', 7, 6.25, 60, 'plum');
		expect(driftOf(d)?.offset).toBeCloseTo(0.25, 9);
		compareWith(d, 'ph', 8, 6.0, 6.0, 'plum');
		compareWith(d, 'ph', 9, 6.0, 6.0, 'plum');
		expect(driftOf(d)).toBeNull();
	});
	it('noise alone rarely alarms: at most a few in 200 runs of thirty comparisons', () => {
		// Its average run length without a shift is 465, so 30 comparisons alarm in about 6 % of runs.
		const chance = seeded(77);
		let alarmed = 0;
		for (let run = 0; run < 200; run++) {
			const d = noDrift(0);
			let any = false;
			for (let i = 1; i <= 30; i++) {
				compareWith(d, 'ph', i, 6 + 0.1 * chance.normal(), 6, 'plum');
				any ||= driftOf(d) !== null;
			}
			if (any) alarmed++;
		}
		expect(alarmed / 200).toBeLessThan(0.14);
	});
});

describe('rhythm of the day', () => {
	it('learns that evenings are higher, and forgets nothing of a flat day', () => {
		const r = noRhythm();
		for (let d = 0; d < 20; d++) {
			countSwing(r, START + d * DAY, -0.15);
			countSwing(r, START + d * DAY + 12 * 3_600_000, 0.15);
		}
		expect(swing(r, START + 30 * DAY)).toBeCloseTo((-0.15 * 20) / 23, 9);
		expect(swing(r, START + 12 * 3_600_000)).toBeGreaterThan(0.12);
		expect(swing(r, START + 6 * 3_600_000)).toBe(0);
	});
	it('narrows the prediction of a station read morning and evening', () => {
		const e = new Engine(
			{ stations: new Map([stationOf('pond', 'reservoir')]), instruments: new Map() },
			() => NEXT * 2,
		);
		const chance = seeded(5);
		for (let d = 0; d < 40; d++)
			for (const [hours, swingBy] of [
				[0, -0.2],
				[10, 0.2],
			] as const)
				e.take([
					reading(
						START + d * DAY + hours * 3_600_000,
						'pond',
						'ph',
						(6 + swingBy + 0.02 * chance.normal()).toFixed(2),
						'pH',
					),
				]);
		const morning = e.expect('pond', 'ph', START + 40 * DAY)!;
		const evening = e.expect('pond', 'ph', START + 40 * DAY + 10 * 3_600_000)!;
		expect(evening.level - morning.level).toBeGreaterThan(0.2);
		expect(Math.abs(morning.level - 5.8)).toBeLessThan(0.15);
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
	for await (const line of checkStream({ readings: csv(), events: [], site, zone: 'UTC', now: () => START + 99 * DAY }))
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
		const rows = noisy(200, 3).map((r, i) => (i >= 150 && i < 180 ? { ...r, ph: 6.07 } : r));
		const ph = (await flags(rows)).filter((f) => f.quantity === 'ph');
		expect(ph.slice(151, 180).every((f) => f.cause === 'stuck')).toBe(true);
		expect(ph.slice(0, 150).filter((f) => f.flag !== '1')).toEqual([]);
		expect(ph.slice(180).every((f) => f.flag === '1')).toBe(true);
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
		expect(await causes(step(120, 122, { ph: 1 }), 'ph', 120, 122)).toEqual(['spike']);
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
