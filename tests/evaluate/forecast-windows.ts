import { windowTo } from '@/core/trend/forecast';
import { seeded } from '@/sim/random';
import { drawTank, reaches, weeksOf } from './worlds/drifting';

/** One window that was stated: what came, and where it lay. */
export interface Stated {
	what: 'ph' | 'ec';
	held: boolean;
	early: boolean;
	/** Days, of the window and of what came beside its middle. */
	width: number;
	off: number;
	ahead: number;
}
const DAY = 86_400_000;
const LOOKS_AHEAD = 60;

/** Tanks of one seed each: after some weeks somebody asks when it comes to a limit. @returns those that were asked, and what was said */
export function ask(first: number, last: number): { asked: number; stated: Stated[]; never: number } {
	const stated: Stated[] = [];
	let [asked, never] = [0, 0];
	for (let seed = first; seed <= last; seed++) {
		const c = seeded(seed * 6151 + 5);
		const tank = drawTank(c);
		const kept = weeksOf(tank, c.between(10, 50), c);
		const now = tank.day * DAY;
		for (const what of ['ph', 'ec'] as const) {
			const here = tank[what];
			const up = c.chance(0.5);
			const limit =
				what === 'ph'
					? up
						? 6.5
						: 5.3
					: Math.round((here * (up ? c.between(1.05, 1.4) : c.between(0.7, 0.95))) / 50) * 50;
			if (up ? here >= limit : here <= limit) continue;
			asked++;
			const w = windowTo(kept[what], kept.filled, limit, now);
			if (!w) continue;
			const came = reaches(tank, what, limit, up, LOOKS_AHEAD, seeded(seed * 13 + 1));
			if (came === null) never++;
			const at = came ?? now + LOOKS_AHEAD * DAY;
			stated.push({
				what,
				held: at >= w.from - DAY / 4 && at <= w.to,
				early: at < w.from - DAY / 4,
				width: (w.to - w.from) / DAY,
				off: (at - w.middle) / DAY,
				ahead: (w.middle - now) / DAY,
			});
		}
	}
	return { asked, stated, never };
}

/** Where so many of a hundred lie. */
export const quantile = (list: readonly number[], p: number): number =>
	[...list].sort((a, b) => a - b)[Math.round(p * (list.length - 1))]!;
