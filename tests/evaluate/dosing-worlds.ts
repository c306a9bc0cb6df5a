import { drawWorld, WORLD_KINDS, type WorldKind } from '@/sim/dosing/worlds';
import { seeded } from '@/sim/random';
import { courseOf, type Visit } from './dosing-course';

/** Advice followed in tanks of one kind. */
export interface WorldRow {
	name: string;
	tanks: number;
	visits: Visit[];
	/** Bases are judged by how far up, acids by how far down. */
	base: boolean;
}

const BEYOND = 0.15;
const percent = (n: number, of: number) => (of === 0 ? '–' : `${((100 * n) / of).toFixed(1)} %`);
const count = (list: readonly Visit[], which: (v: Visit) => boolean): number => list.filter(which).length;

/** @param tell hears of each bringing to target that went badly, for finding out why */
export function tryKind(
	kind: WorldKind,
	first: number,
	last: number,
	tell: (line: string) => void = () => undefined,
): WorldRow {
	const row: WorldRow = { name: kind, tanks: 0, visits: [], base: kind === 'base' };
	for (let seed = first; seed <= last; seed++) {
		const chance = seeded(seed * 7919 + WORLD_KINDS.indexOf(kind) * 104_729);
		const visits = courseOf(drawWorld(kind, chance), chance);
		row.tanks++;
		row.visits.push(...visits);
		for (const v of visits)
			if (v.beyond > BEYOND || v.refused !== null || (v.reachedIn ?? 99) > (v.history ? 3 : 5))
				tell(
					`${kind} ${seed} filling ${v.filling} way ${v.way.toFixed(2)} beyond ${v.beyond.toFixed(2)} in ${v.reachedIn} ${v.refused ?? ''} ${v.said.join(' ')}`,
				);
	}
	return row;
}

const HEAD = [
	'tank',
	'tanks',
	'brought to target',
	'below 4.5 (base: above 7.5)',
	'furthest',
	'beyond by more than 0.15, read',
	'at any time',
	'in 3 doses, with history',
	'in 5, without',
	'intervals held',
	'refused',
];

/** The kinds as a table, the worst first, and all together. */
export function worldsTable(rows: readonly WorldRow[]): string {
	const far = (r: WorldRow) => count(r.visits, (v) => v.beyond > BEYOND) / Math.max(r.visits.length, 1);
	const sorted = [...rows].sort((a, b) => harmed(b) - harmed(a) || far(b) - far(a));
	return [
		`| ${HEAD.join(' | ')} |`,
		`|${HEAD.map(() => '---|').join('')}`,
		...sorted.map((r) => `| ${r.name} | ${cells(r).join(' | ')} |`),
		`| **all** | ${cells({ name: 'all', tanks: rows.reduce((s, r) => s + r.tanks, 0), visits: rows.flatMap((r) => r.visits), base: false }).join(' | ')} |`,
	].join('\n');
}

const harmed = (r: WorldRow): number => count(r.visits, (v) => (r.base ? v.extreme > 7.5 : v.extreme < 4.5));

function cells(r: WorldRow): (string | number)[] {
	const v = r.visits;
	const within = (list: Visit[], most: number) =>
		percent(
			count(list, (x) => x.reachedIn !== null && x.reachedIn <= most),
			list.length,
		);
	const extremes = v.map((x) => x.extreme);
	return [
		r.tanks,
		v.length,
		harmed(r),
		extremes.length === 0 ? '–' : (r.base ? Math.max(...extremes) : Math.min(...extremes)).toFixed(2),
		percent(
			count(v, (x) => x.beyond > BEYOND),
			v.length,
		),
		percent(
			count(v, (x) => x.dipped > BEYOND),
			v.length,
		),
		within(
			v.filter((x) => x.history),
			3,
		),
		within(
			v.filter((x) => !x.history),
			5,
		),
		percent(
			v.reduce((s, x) => s + x.intervals.held, 0),
			v.reduce((s, x) => s + x.intervals.stated, 0),
		),
		percent(
			count(v, (x) => x.refused !== null),
			v.length,
		),
	];
}
