import type { Fuzzed } from '../helpers/fuzz';
import { fuzz } from '../helpers/fuzz';
import { storedIsGood, vocabularyOf } from '../helpers/fuzzed-store';

const REQUESTS = Number(process.env.BENCH_REQUESTS ?? 20_000);
const SEED = Number(process.env.BENCH_SEED ?? Date.now() % 1_000_000);
const SHOWN = 20;

/** Twenty thousand requests made from the OpenAPI document, each bent somewhere, at the demo; and what is stored after them. */
export async function fuzzing(say: (name: string, text: string) => void, base: string): Promise<void> {
	const found: Fuzzed = await fuzz(base, await vocabularyOf(base), REQUESTS, SEED);
	for (const wrong of found.wrong.slice(0, SHOWN)) say('wrong', wrong);
	for (const late of found.late.slice(0, SHOWN)) say('late', late);
	for (const wrong of await storedIsGood(base)) say('wrong in the store', wrong);
	say(
		`${REQUESTS.toLocaleString('en-GB')} fuzzed requests, seed ${SEED}`,
		`${found.wrong.length} wrong, ${found.late.length} late; ${Object.entries(found.statuses)
			.map(([status, n]) => `${n} × ${status}`)
			.join(', ')}; the slowest ${found.slowestMs.toFixed(0)} ms (${found.slowest.slice(0, 80)})`,
	);
}
