import { explain } from '@/core/explain/explain';
import { seeded } from '@/sim/random';
import { bagWorld, TRUE_CAUSES, type TrueCause, tankWorld, type World } from './worlds/causes';
import { drawTank, weeksOf } from './worlds/drifting';

/**
 * How often the true cause is named first, and among the first two, on worlds of so many seeds: `npm run evaluate:causes -- from to`. Beside
 * the worlds of causes stand drifting tanks, older than this: their pH moves by what plants take, their EC by how much of it.
 */
const [from, to] = process.argv.slice(2).map(Number) as [number, number];
const SEEN = { ph: 0.3, ec: 0.1 } as const;
interface Count {
	n: number;
	first: number;
	two: number;
	cannot: number;
	steady: number;
	wrong: number;
}
const none = (): Count => ({ n: 0, first: 0, two: 0, cannot: 0, steady: 0, wrong: 0 });
const counts = new Map<string, Count>();
const confused = new Map<string, number>();

function tally(key: string, w: World, asFirst: string | null, two: readonly string[], says: string): void {
	const c = counts.get(key) ?? none();
	counts.set(key, c);
	c.n++;
	if (says === 'cannot-tell') c.cannot++;
	if (says === 'steady' || says === 'unknown') c.steady++;
	if (asFirst === w.cause) c.first++;
	else if (says === 'explained') c.wrong++;
	if (two.includes(w.cause)) c.two++;
}
for (let seed = from; seed < to; seed++) {
	const c = seeded(seed);
	const cause = c.pick(TRUE_CAUSES) as TrueCause;
	const bag = (cause === 'salts' || cause === 'diluted' || cause === 'feed_wrong') && c.chance(0.5);
	const w = bag ? bagWorld(cause as 'salts', c) : tankWorld(cause, c);
	const said = explain(w.book);
	const names = said.causes.map((x) => x.cause as string);
	const visible = cause === 'nothing' || Math.abs(w.moved) >= SEEN[w.book.quantity];
	const group = cause === 'nothing' ? 'nothing' : w.thin ? 'thin' : visible ? 'full' : 'faint';
	tally(group, w, names[0] ?? null, names.slice(0, 2), said.says);
	tally(
		`${group}, said`,
		w,
		said.says === 'explained' ? names[0]! : null,
		said.says === 'explained' ? names.slice(0, 2) : [],
		said.says,
	);
	if (group === 'full') {
		tally(`  ${bag ? 'bag ' : ''}${cause}`, w, names[0] ?? null, names.slice(0, 2), said.says);
		if (names[0] !== cause && said.says !== 'unknown') {
			const key = `${bag ? 'bag ' : ''}${cause} -> ${names[0] ?? said.says}`;
			confused.set(key, (confused.get(key) ?? 0) + 1);
		}
	}
}
const DAY = 86_400_000;
for (let seed = from; seed < to; seed++) {
	const c = seeded(1_000_000 + seed);
	const t = drawTank(c);
	const start = { takes: t.traits.takes / t.ec, ph: t.traits.phPerDay };
	const kept = weeksOf(t, 28, c);
	for (const quantity of ['ph', 'ec'] as const) {
		const cause: TrueCause =
			quantity === 'ph' ? (start.ph > 0 ? 'nitrate' : 'ammonium') : start.takes > 1 ? 'hungry' : 'salts';
		// Near as strong as what it stands in nothing much moves.
		const visible = quantity === 'ph' || Math.abs(start.takes - 1) > 0.25;
		const seen = kept[quantity].map((r) => ({ ...r, off: 0, instrument: 'pen' }));
		const said = explain({
			quantity,
			kind: 'tank',
			readings: seen,
			other: quantity === 'ph' ? kept.ec : kept.ph,
			temps: [],
			oxygen: [],
			litres: [],
			// Filled up with feed, acid with it: the solution is made anew.
			acts: kept.filled.map((at) => ({ at, kind: 'changed' as const, litres: null })),
			shares: [],
			feed: [],
			pairs: [],
			calibrated: kept.filled.filter((_, i) => i % 2 === 0).map((at) => at + DAY / 24),
			volumeL: t.fullL,
			aeration: null,
			water: { alkalinityMeqL: 0.2, ecUsCm: 100 },
			ammoniumShare: quantity === 'ph' ? (start.ph > 0 ? 0.05 : 0.15) : null,
			compensates: true,
		});
		const names = said.causes.map((x) => x.cause as string);
		tally(
			`drifting ${quantity}${visible ? '' : ' faint'}`,
			{ cause } as World,
			names[0] ?? null,
			names.slice(0, 2),
			said.says,
		);
	}
}
for (const [key, c] of [...counts].sort())
	console.log(
		`${key.padEnd(22)} n ${String(c.n).padStart(4)}  first ${((100 * c.first) / c.n).toFixed(0)} %  of two ${((100 * c.two) / c.n).toFixed(0)} %  cannot tell ${c.cannot}  steady or unknown ${c.steady}  wrong though sure ${c.wrong}`,
	);
console.log(
	[...confused]
		.sort((a, b) => b[1] - a[1])
		.slice(0, 25)
		.map(([k, n]) => `${n}  ${k}`)
		.join('\n'),
);
