import type { ProbeEventKind } from './care';

/**
 * A bulb that dried out: how long it has stood in storage solution, when it may be dipped in two buffers, and what its slope was
 * before and is after. Some hours at the least, over night is better (common practice, no source).
 */
export const LEAST_SOAK_MS = 2 * 3_600_000;
export const BEST_SOAK_MS = 12 * 3_600_000;
/** Percent by which a slope may fall and still be what it was: two buffers tell no finer. */
const ALIKE_PCT = 2;

export interface Rehydration {
	driedAt: number;
	/** When it was put into storage solution; null while nobody has said so. */
	soakedAt: number | null;
	/** `dry`, then `soaking`, then `ready` for two buffers, then `done`. */
	state: 'dry' | 'soaking' | 'ready' | 'done';
	slopeBeforePct: number | null;
	/** The first after it, in two buffers. */
	slopeAfterPct: number | null;
	/** How it came out; null until it is done, or where no slope before is known. */
	came: 'back' | 'weaker' | null;
}

/**
 * Where a probe stands since it last dried out; null where it did not, or was replaced since.
 * @param slopes of its calibrations in two standards, oldest first
 */
export function rehydration(
	events: readonly { at: number; kind: ProbeEventKind }[],
	slopes: readonly { at: number; slopePct: number }[],
	now: number,
): Rehydration | null {
	const dried = events.findLast((e) => e.kind === 'dried_out');
	if (!dried || events.some((e) => e.kind === 'new_probe' && e.at > dried.at)) return null;
	const soaked = events.findLast((e) => e.kind === 'rehydrated' && e.at >= dried.at) ?? null;
	const before = slopes.findLast((s) => s.at < dried.at)?.slopePct ?? null;
	const after = soaked ? (slopes.find((s) => s.at >= soaked.at + LEAST_SOAK_MS)?.slopePct ?? null) : null;
	const state =
		after !== null ? 'done' : !soaked ? 'dry' : now - soaked.at < LEAST_SOAK_MS ? 'soaking' : ('ready' as const);
	return {
		driedAt: dried.at,
		soakedAt: soaked?.at ?? null,
		state,
		slopeBeforePct: before,
		slopeAfterPct: after,
		came: after === null || before === null ? null : after < before - ALIKE_PCT ? 'weaker' : 'back',
	};
}
