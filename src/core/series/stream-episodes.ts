import { DOUBTED_FLAGS } from '../trust/trust';
import { FLAG_OF } from './findings';

/** Doubtful samples of one cause that follow each other. */
export interface StreamEpisode {
	cause: number;
	flag: number;
	since: number;
	until: number;
	samples: number;
}

const LEAST_MS = 30 * 60_000;
const USUAL_TIMES = 2.5;
/**
 * Doubts of one cause that follow each other within this time are one episode: half an hour, or the next sample of one that is seldom
 * read.
 * @param usualMs between two samples; 0 while unknown
 * @example oneEpisodeMs(3_600_000) / 60_000 // 150
 */
export const oneEpisodeMs = (usualMs: number): number => Math.max(LEAST_MS, USUAL_TIMES * usualMs);

/**
 * Goes on with episodes by what samples were found to be.
 * @param before of this series; those that may go on are among them
 * @param samples ascending, newer than those before
 * @param usualMs between two of them; 0 while unknown
 * @returns the episodes that are new or have gone on
 * @example streamEpisodes([], { at: [0, 60000], cause: [2, 2], count: 2 }).length // 1
 */
export function streamEpisodes(
	before: readonly StreamEpisode[],
	samples: { at: ArrayLike<number>; cause: ArrayLike<number>; count: number },
	usualMs = 0,
): StreamEpisode[] {
	const within = oneEpisodeMs(usualMs);
	const open = new Map<number, StreamEpisode>();
	for (const e of before) {
		const other = open.get(e.cause);
		if (!other || other.until < e.until) open.set(e.cause, { ...e });
	}
	const changed = new Set<StreamEpisode>();
	for (let i = 0; i < samples.count; i++) {
		const cause = samples.cause[i]!;
		const flag = FLAG_OF[cause]!;
		if (!DOUBTED_FLAGS.includes(flag)) continue;
		const at = samples.at[i]!;
		let e = open.get(cause);
		if (!e || at - e.until > within) {
			e = { cause, flag, since: at, until: at, samples: 0 };
			open.set(cause, e);
		}
		e.until = Math.max(e.until, at);
		e.samples++;
		changed.add(e);
	}
	return [...changed];
}
