// The checks of a series over plain arrays, and one plain pass over the same; for npm run bench -- streams.
import { MANNERS } from '@/core/series/manner';
import { judgeStream } from '@/core/series/stream-checks';
import { newStream } from '@/core/series/stream-memory';
import { median, shown, WARM } from './measuring.mts';

const MINUTE = 60_000;

/** Within a function: what stands outside of all is slower to get at, for the plain pass as well. */
function measure(): void {
	const n = 2_000_000;
	const at = Float64Array.from({ length: n }, (_, i) => i * MINUTE);
	const value = Float64Array.from({ length: n }, (_, i) => shown(i, 5.9, 0.02));
	const around = { quantity: 'ph' as const, disturbed: [], kept: [], hands: [] };
	const pass = () => {
		let out = 0;
		for (let i = 1; i < n; i++)
			if (value[i]! < 0 || value[i]! > 14 || Math.abs(value[i]! - value[i - 1]!) > MANNERS.ph.least * 6) out++;
		return out;
	};
	const [times, plain]: number[][] = [[], []];
	// What comes out is used, or the compiler leaves the pass out.
	let jumps = 0;
	for (let run = -WARM; run < 5; run++) {
		let begun = performance.now();
		judgeStream(newStream(0), { at, value, count: n }, around);
		const judging = performance.now() - begun;
		begun = performance.now();
		jumps += pass();
		const passing = performance.now() - begun;
		if (run < 0) continue;
		times!.push(judging);
		plain!.push(passing);
	}
	if (jumps !== 0) throw new Error('There is no jump in what was made up.');
	const [checked, passed] = [median(times!), median(plain!)];
	console.log(
		`${'checks of a series, one thread'.padEnd(46)} ${Math.round((1000 * n) / checked).toLocaleString('en-GB')} samples/s; ${(checked / passed).toFixed(1)} × a plain pass`,
	);
}
measure();
