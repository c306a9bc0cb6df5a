import { describe, expect, it } from 'vitest';
import { STREAM_CAUSES } from '@/core/series/findings';
import { judgeProbe } from '@/core/series/judge-probe';
import { newProbe } from '@/core/series/stream-memory';

const MINUTE = 60_000;
const NOTHING = () => ({ disturbed: [], kept: [], hands: [] });
const times = Array.from({ length: 900 }, (_, i) => i * 5 * MINUTE);
const of = (quantity: 'ph' | 'ec' | 'temp', value: (i: number) => number) => ({
	quantity,
	at: times,
	value: times.map((_, i) => value(i)),
	count: times.length,
});
const wave = (i: number, size: number) => size * Math.sin(i * 1.9) * ((i * 11) % 5);
const names = (cause: Uint8Array, from: number, to: number) => [
	...new Set([...cause.slice(from, to)].map((c) => STREAM_CAUSES[c])),
];

describe('what one probe tells', () => {
	it('pH is judged by what the conductivity beside it shows: out of the water, in the cap', () => {
		const out = (i: number) => i >= 400 && i < 410;
		const [ph, ec] = judgeProbe(
			newProbe(0),
			[of('ph', (i) => 5.9 + wave(i, 0.004)), of('ec', (i) => (out(i) ? 5 : 1800 + wave(i, 2)))],
			NOTHING,
		);
		expect(names(ph!.cause, 400, 410)).toEqual(['probe-in-air']);
		expect(names(ec!.cause, 400, 410)).toEqual(['probe-in-air']);
		expect(names(ph!.cause, 410, 900)).toEqual(['']);
	});
	it('the same where the conductivity came just before, in another message', () => {
		const memory = newProbe(0);
		for (let i = 0; i < 60; i++) {
			judgeProbe(
				memory,
				[{ quantity: 'ec', at: [i * MINUTE], value: [i < 50 ? 1800 + wave(i, 2) : 5], count: 1 }],
				NOTHING,
			);
			const [ph] = judgeProbe(
				memory,
				[{ quantity: 'ph', at: [i * MINUTE + 500], value: [5.9 + wave(i, 0.004)], count: 1 }],
				NOTHING,
			);
			expect(STREAM_CAUSES[ph!.cause[0]!]).toBe(i < 50 ? '' : 'probe-in-air');
		}
	});
	it('a node that hangs shows all of it standing still at once', () => {
		const hangs = (i: number) => (i >= 500 && i < 560 ? 500 : i);
		const all = judgeProbe(
			newProbe(0),
			[
				of('ph', (i) => 5.9 + wave(hangs(i), 0.004)),
				of('ec', (i) => 1800 + wave(hangs(i), 2)),
				of('temp', (i) => 20 + wave(hangs(i), 0.03)),
			],
			NOTHING,
		);
		for (const { cause } of all) {
			expect(names(cause, 502, 560)).toEqual(['stuck']);
			expect(names(cause, 561, 900)).toEqual(['']);
		}
	});
});
