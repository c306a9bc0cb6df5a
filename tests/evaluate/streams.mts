// npm run evaluate:streams [-- first last home|seen|held-back]: how good the checks of sensor streams are on simulated nodes whose every
// sample is known; the same worlds and the same count as for the checks of entries.
import { QUANTITY, type SeriesQuantity, toCanonical, unitNamed } from '@/core/quantity';
import { disturbances, PUTS_RIGHT } from '@/core/series/disturbances';
import { FLAG_OF, STREAM_CAUSES } from '@/core/series/findings';
import { judgeProbe } from '@/core/series/judge-probe';
import { newProbe } from '@/core/series/stream-memory';
import { Tally } from './tally';
import { hourly, slab } from './worlds/held-back';
import { nodeWorld } from './worlds/home';
import { halfHours, minutes } from './worlds/seen';
import type { Row, World } from './worlds/world';

const numbers = process.argv.slice(2).filter((a) => /^\d+$/.test(a));
const [first = 9001, last = 9010] = numbers.map(Number);
const WORLDS: Record<string, readonly ((seed: number) => World)[]> = {
	home: [nodeWorld],
	seen: [minutes, halfHours],
	'held-back': [slab, hourly],
};
const chosen = process.argv.slice(2).filter((w) => w in WORLDS);
const kinds = chosen.length > 0 ? chosen : ['home', 'seen'];
const tally = new Tally();

/** A hand is no stream: what is written more seldom than this. */
const SELDOM_MS = 2 * 3_600_000;

function evaluate({ name, rows, events }: World, seed: number): void {
	const probes = new Map<string, Map<string, Row[]>>();
	for (const r of rows) {
		if (!(r.quantity in QUANTITY)) continue;
		const own = probes.get(`${r.station} ${r.instrument}`) ?? new Map<string, Row[]>();
		probes.set(`${r.station} ${r.instrument}`, own);
		own.set(r.quantity, [...(own.get(r.quantity) ?? []), r]);
	}
	const seldom = (all: Row[]) => (all.at(-1)!.at - all[0]!.at) / all.length > SELDOM_MS;
	const canonical = (r: Row) => toCanonical(Number(r.value), unitNamed(r.unit)!);
	const hands = [...probes.values()].flatMap((p) => [...p.values()].filter(seldom)).flat();
	for (const [probe, series] of probes) {
		const here = events.filter((e) => probe.startsWith(`${e.station} `));
		const streams = [...series]
			.filter(([, all]) => !seldom(all))
			.map(([quantity, all]) => {
				// What was sent twice is refused.
				const own = all.sort((a, b) => a.at - b.at).filter((r, i) => i === 0 || r.at > all[i - 1]!.at);
				return {
					quantity: quantity as SeriesQuantity,
					own,
					at: own.map((r) => r.at),
					value: own.map(canonical),
					count: own.length,
				};
			});
		if (streams.length === 0) continue;
		const judged = judgeProbe(newProbe(streams[0]!.at[0]!), streams, (quantity) => ({
			disturbed: disturbances(here),
			kept: [],
			hands: [
				...hands
					.filter((r) => r.quantity === quantity && probe.startsWith(`${r.station} `))
					.map((r) => ({ at: r.at, value: canonical(r), by: r.instrument })),
				...here.filter((e) => PUTS_RIGHT.has(e.kind)).map((e) => ({ at: e.at, value: null, by: '' })),
			].sort((a, b) => a.at - b.at),
		}));
		for (const [k, { own, quantity }] of streams.entries())
			for (const [i, r] of own.entries()) {
				const cause = judged[k]!.cause[i]!;
				tally.add(name, String(seed), {
					at: r.at,
					fault: r.fault,
					episode: r.episode,
					flagged: FLAG_OF[cause]! >= 3,
					cause: STREAM_CAUSES[cause]!,
					suggested: null,
					truth: r.truth,
					exempt: r.exempt,
					series: `${quantity} ${probe}`,
					plainFlagged: false,
				});
			}
	}
}

for (let seed = first; seed <= last; seed++)
	for (const kind of kinds) for (const make of WORLDS[kind]!) evaluate(make(seed), seed);
console.log(`seeds ${first} to ${last}\n`);
console.log(tally.byWorld());
if (!kinds.includes('held-back')) console.log(`\n${tally.byFault()}`);
