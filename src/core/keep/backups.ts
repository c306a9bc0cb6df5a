/**
 * Which backups stay: the newest of each of the last days, weeks and months that have one (a rotation of three generations; common
 * practice).
 */
export const KEPT = { days: 7, weeks: 5, months: 12 } as const;

const DAY = 86_400_000;
/** The number of the week that a day lies in, weeks beginning on Monday. */
const weekOf = (day: string): number => Math.floor((Date.parse(`${day}T00:00:00Z`) / DAY + 3) / 7);

/**
 * @param days of backups, as `2026-07-14`; each once
 * @returns those that stay
 * @example keptBackups(['2026-07-13', '2026-07-14']) // ['2026-07-14', '2026-07-13']
 */
export function keptBackups(days: readonly string[]): string[] {
	const newestFirst = [...days].sort().reverse();
	const kept = new Set<string>();
	for (const [most, partOf] of [
		[KEPT.days, (d: string) => d],
		[KEPT.weeks, (d: string) => String(weekOf(d))],
		[KEPT.months, (d: string) => d.slice(0, 7)],
	] as const) {
		const seen = new Set<string>();
		for (const day of newestFirst) {
			const part = partOf(day);
			if (seen.has(part)) continue;
			if (seen.size === most) break;
			seen.add(part);
			kept.add(day);
		}
	}
	return newestFirst.filter((d) => kept.has(d));
}
