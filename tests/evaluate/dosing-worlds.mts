// npm run evaluate:dosing:worlds [-- first last [kind]]: advice on doses followed in simulated tanks of every kind.
import { drawWorld, WORLD_KINDS, type WorldKind } from '@/sim/dosing/worlds';
import { seeded } from '@/sim/random';
import { courseOf, type Visit } from './dosing-course';

const [first = '1', last = '20', only] = process.argv.slice(2);
const kinds = WORLD_KINDS.filter((k) => only === undefined || k === only);
const percent = (n: number, of: number) => (of === 0 ? '–' : `${((100 * n) / of).toFixed(1)} %`);

interface Row {
	kind: WorldKind;
	tanks: number;
	visits: Visit[];
	worst: { seed: number; extreme: number };
}
const rows: Row[] = [];
for (const kind of kinds) {
	const row: Row = { kind, tanks: 0, visits: [], worst: { seed: 0, extreme: Number.NaN } };
	for (let seed = Number(first); seed <= Number(last); seed++) {
		const chance = seeded(seed * 7919 + WORLD_KINDS.indexOf(kind) * 104_729);
		const world = drawWorld(kind, chance);
		const visits = courseOf(world, chance);
		row.tanks++;
		row.visits.push(...visits);
		for (const v of visits) {
			const worse = kind === 'base' ? v.extreme > row.worst.extreme : v.extreme < row.worst.extreme;
			if (worse || Number.isNaN(row.worst.extreme)) row.worst = { seed, extreme: v.extreme };
			if (process.env.SHOW && (v.beyond > 0.15 || v.refused !== null || (v.reachedIn ?? 99) > (v.history ? 3 : 5)))
				console.error(
					kind,
					seed,
					`filling ${v.filling} way ${v.way.toFixed(2)} beyond ${v.beyond.toFixed(2)} in ${v.reachedIn}`,
					v.refused ?? '',
					v.said.join(' '),
				);
		}
	}
	rows.push(row);
	console.error(line(row));
}

function line(r: Row): string {
	const v = r.visits;
	const harmed = v.filter((x) => (r.kind === 'base' ? x.extreme > 7.5 : x.extreme < 4.5)).length;
	const history = v.filter((x) => x.history);
	const fresh = v.filter((x) => !x.history);
	const within = (list: Visit[], most: number) =>
		percent(list.filter((x) => x.reachedIn !== null && x.reachedIn <= most).length, list.length);
	const stated = v.reduce((s, x) => s + x.intervals.stated, 0);
	const held = v.reduce((s, x) => s + x.intervals.held, 0);
	return `| ${r.kind} | ${r.tanks} | ${v.length} | ${harmed} | ${r.worst.extreme.toFixed(2)} | ${percent(v.filter((x) => x.beyond > 0.15).length, v.length)} | ${percent(v.filter((x) => x.dipped > 0.15).length, v.length)} | ${within(history, 3)} | ${within(fresh, 5)} | ${percent(held, stated)} | ${percent(v.filter((x) => x.refused !== null).length, v.length)} |`;
}
rows.sort(
	(a, b) =>
		b.visits.filter((x) => x.beyond > 0.15).length / b.visits.length -
		a.visits.filter((x) => x.beyond > 0.15).length / a.visits.length,
);
console.log(
	'| tank | tanks | brought to target | pH below 4.5 (base: above 7.5) | furthest | beyond by more than 0.15 when read | at any time | in 3 doses, with history | in 5, without | intervals held | refused |\n|---|---|---|---|---|---|---|---|---|---|---|',
);
for (const r of rows) console.log(line(r));
const all: Row = {
	kind: 'still',
	tanks: rows.reduce((s, r) => s + r.tanks, 0),
	visits: rows.flatMap((r) => r.visits),
	worst: rows[0]!.worst,
};
console.log(line(all).replace('| still |', '| all |'));
