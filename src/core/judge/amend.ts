import type { Finding, Reading, Verdict } from '../reading/model';

/** Lines that a later finding may still explain: sound ones, and those whose own finding was only the beginning of it. */
export const OPEN_CAUSES: readonly string[] = ['spike', 'gap', 'unexpected-change'];
/** What a source that was read alike again and again explains: it looked like a slip. */
const SLIPS: readonly string[] = ['decimal-slip', 'unit-slip', 'scale-mismatch'];
/** What a finding may explain of the lines before it. */
export const explains = (finding: Finding): readonly string[] =>
	finding.cause === 'source-shift' ? [...OPEN_CAUSES, ...SLIPS] : OPEN_CAUSES;
/**
 * Whether a line may still be explained by a later finding.
 * @example isOpen('spike') // true
 */
export const isOpen = (cause: string | null | undefined, by: Finding | null = null): boolean =>
	!cause || (by === null ? OPEN_CAUSES : explains(by)).includes(cause);

/** The key of what one instrument showed of one quantity at one station. */
export const seriesOf = (r: Pick<Reading, 'station' | 'instrument' | 'quantity'>): string =>
	`${r.station}\u0000${r.instrument}\u0000${r.quantity}`;

/** Says of what came before in a series what a verdict has made sure since then. Changes the verdicts in place. */
export function amendEarlier(
	earlier: readonly { reading: Reading; verdict: Verdict }[],
	by: { reading: Reading; verdict: Verdict },
): void {
	const { since, deciding, flag } = by.verdict;
	if (since === undefined || deciding === null) return;
	const series = seriesOf(by.reading);
	for (let i = earlier.length - 1; i >= 0; i--) {
		const { reading, verdict } = earlier[i]!;
		if (reading.at < since) break;
		if (seriesOf(reading) !== series || !isOpen(verdict.deciding?.cause, deciding)) continue;
		verdict.flag = flag;
		verdict.deciding = deciding;
	}
}
