import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SeriesQuantity } from '@/core/quantity';
import { STREAM_CAUSES } from '@/core/series/findings';
import { type Beside, judgeStream, type Stretches } from '@/core/series/stream-checks';
import { newStream } from '@/core/series/stream-memory';

/** Checks of the IOOS QARTOD manuals (gross range, spike, flat line, timing) on a stream; limits are common practice, no source. */
const MINUTE = 60_000;
const calm = (level: number, size: number) => (i: number) => level + size * Math.sin(i * 1.7) * ((i * 13) % 7) * 0.3;
interface Around {
	quantity: SeriesQuantity;
	disturbed?: Stretches;
	kept?: Stretches;
	hands?: readonly Beside[];
}
const around = ({ quantity, disturbed = [], kept = [], hands = [] }: Around) => ({ quantity, disturbed, kept, hands });

/** Judges values of every five minutes, in pieces if asked. */
function judged(
	values: readonly number[],
	how: Around,
	pieces = 1,
): { causes: string[]; earlier: unknown[]; gaps: number } {
	const at = values.map((_, i) => i * 5 * MINUTE);
	const memory = newStream(0);
	const causes: number[] = [];
	const earlier: unknown[] = [];
	let gaps = 0;
	const size = Math.ceil(values.length / pieces);
	for (let from = 0; from < values.length; from += size) {
		const part = { at: at.slice(from, from + size), value: values.slice(from, from + size) };
		const r = judgeStream(memory, { ...part, count: part.at.length }, around(how));
		for (const e of r.earlier) {
			earlier.push(e);
			for (let i = 0; i < from; i++) if (at[i]! >= e.from && at[i]! < e.to && causes[i] === e.over) causes[i] = e.cause;
		}
		causes.push(...r.cause);
		gaps += r.gaps.length;
		// What is remembered is plain data: it may be kept and gone on from.
		Object.assign(memory, JSON.parse(JSON.stringify(memory)));
	}
	return { causes: causes.map((c) => STREAM_CAUSES[c]!), earlier, gaps };
}
const series = <T>(n: number, f: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => f(i));
const at = (causes: string[], cause: string) => causes.flatMap((c, i) => (c === cause ? [i] : []));

describe('a stream', () => {
	it('that is calm is believed whole, whatever it measures', () => {
		for (const [quantity, level, size] of [
			['ph', 5.9, 0.01],
			['ec', 1800, 6],
			['temp', 20, 0.1],
			['do', 8, 0.05],
			['level', 250, 1],
			['air_temp', 24, 0.2],
			['humidity', 60, 2],
		] as const)
			expect(new Set(judged(series(600, calm(level, size)), { quantity }).causes)).toEqual(new Set(['']));
	});
	it('beyond what any instrument shows is bad (QARTOD gross range)', () => {
		const values = series(100, calm(5.9, 0.01));
		values[50] = 14.2;
		expect(at(judged(values, { quantity: 'ph' }).causes, 'out-of-range')).toEqual([50]);
	});
	it('that jumps and comes back has spiked (QARTOD spike)', () => {
		const values = series(200, calm(1800, 6));
		values[100] = 2500;
		expect(at(judged(values, { quantity: 'ec' }).causes, 'spike')).toEqual([100]);
	});
	it('that jumps and stays is a new level, told of from its first sample', () => {
		const ec = series(200, (i) => calm(i < 100 ? 1800 : 2300, 6)(i));
		expect(at(judged(ec, { quantity: 'ec' }).causes, 'unlogged-addition')[0]).toBe(100);
		expect(
			judged(ec, { quantity: 'ec' })
				.causes.slice(110)
				.every((c) => c === ''),
		).toBe(true);
		const ph = series(200, (i) => calm(i < 100 ? 5.9 : 6.6, 0.01)(i));
		expect(at(judged(ph, { quantity: 'ph' }).causes, 'calibration-step')[0]).toBe(100);
	});
	it('that was stirred is mixing, and no mistake', () => {
		const ec = series(200, (i) => calm(i < 100 ? 1800 : 2300, 6)(i));
		const { causes } = judged(ec, { quantity: 'ec', disturbed: [[99 * 5 * MINUTE, 112 * 5 * MINUTE]] });
		expect(new Set(causes)).toEqual(new Set(['', 'mixing']));
	});
	it('of conductivity near nothing is out of the water, of a cap’s potassium chloride in it (3 mol/L KCl: far above any feed)', () => {
		const ec = series(300, calm(1800, 6));
		for (let i = 100; i < 106; i++) ec[i] = 8;
		for (let i = 200; i < 206; i++) ec[i] = 80_000;
		const { causes } = judged(ec, { quantity: 'ec' });
		expect(at(causes, 'probe-in-air')).toEqual([100, 101, 102, 103, 104, 105]);
		expect(at(causes, 'probe-in-storage')).toEqual([200, 201, 202, 203, 204, 205]);
	});
	it('that stands still for longer than it ever did hangs, told of from where it began (QARTOD flat line)', () => {
		const temp = series(900, (i) => 20 + 2 * Math.sin(i / 45) + 0.05 * ((i * 7) % 5));
		for (let i = 500; i < 640; i++) temp[i] = temp[500]!;
		const hung = at(judged(temp, { quantity: 'temp' }).causes, 'stuck');
		expect([hung[0], hung.at(-1)]).toEqual([501, 639]);
	});
	it('that creeps away from hand readings drifts, until it is put right (Page 1954: cumulative sum)', () => {
		const ph = series(2400, (i) => calm(5.9, 0.01)(i) + 0.0004 * i);
		const hands = series(8, (d) => ({ at: (d + 1) * 288 * 5 * MINUTE, value: 5.9, by: 'plum' }));
		const { causes } = judged(ph, { quantity: 'ph', hands });
		expect(causes[2399]).toBe('drift');
		expect(causes.slice(0, 800).every((c) => c === '')).toBe(true);
		const righted: Beside[] = [...hands, { at: 2300 * 5 * MINUTE, value: null, by: '' }].sort((a, b) => a.at - b.at);
		expect(judged(ph, { quantity: 'ph', hands: righted }).causes[2399]).toBe('');
	});
	it('that a person kept is believed, and its level taken', () => {
		const ec = series(200, (i) => calm(i < 100 ? 1800 : 90, 3)(i));
		expect(at(judged(ec, { quantity: 'ec' }).causes, 'probe-in-air')).toHaveLength(100);
		const { causes } = judged(ec, { quantity: 'ec', kept: [[100 * 5 * MINUTE, 110 * 5 * MINUTE]] });
		expect(causes.every((c) => c === '')).toBe(true);
	});
	it('tells its holes', () => {
		const memory = newStream(0);
		const times = [...series(50, (i) => i * MINUTE), ...series(50, (i) => (i + 200) * MINUTE)];
		const { gaps } = judgeStream(
			memory,
			{ at: times, value: times.map((_, i) => calm(5.9, 0.01)(i)), count: 100 },
			around({ quantity: 'ph' }),
		);
		expect(gaps).toEqual([{ from: 49 * MINUTE, to: 200 * MINUTE }]);
	});
	it('switched by itself may jump: flow and moisture', () => {
		const flow = series(300, (i) => (i % 12 === 0 ? 40 : 0));
		expect(new Set(judged(flow, { quantity: 'flow' }).causes)).toEqual(new Set(['']));
	});
	it('gets the same verdicts however it is cut (property)', () => {
		const story = fc.record({
			jump: fc.double({ min: -0.9, max: 0.9, noNaN: true }),
			from: fc.integer({ min: 40, max: 300 }),
			length: fc.integer({ min: 1, max: 120 }),
			pieces: fc.integer({ min: 2, max: 90 }),
		});
		fc.assert(
			fc.property(story, ({ jump, from, length, pieces }) => {
				const values = series(400, (i) => calm(5.9, 0.01)(i) + (i >= from && i < from + length ? jump : 0));
				expect(judged(values, { quantity: 'ph' }, pieces).causes).toEqual(judged(values, { quantity: 'ph' }).causes);
			}),
			{ numRuns: 60 },
		);
	});
});
