import type { Flag } from '../reading/model';
import { permits } from '../trust/trust';

/**
 * What the checks of a stream can find of a sample, by number as it is kept beside the value: add at the end, never move one. Codes
 * are those of docs/formats.md.
 */
export const STREAM_CAUSES = [
	'',
	'out-of-range',
	'spike',
	'stuck',
	'probe-in-air',
	'probe-in-storage',
	'mixing',
	'unlogged-addition',
	'calibration-step',
	'unexpected-change',
	'drift',
] as const;
export type StreamCause = (typeof STREAM_CAUSES)[number];
/**
 * The number that a cause is kept by.
 * @example numberOf('spike') // 2
 */
export const numberOf = (cause: StreamCause): number => STREAM_CAUSES.indexOf(cause);

const FLAGS: Record<StreamCause, Flag> = {
	'': 1,
	'out-of-range': 4,
	spike: 3,
	stuck: 3,
	'probe-in-air': 4,
	'probe-in-storage': 4,
	mixing: 2,
	'unlogged-addition': 3,
	'calibration-step': 3,
	'unexpected-change': 3,
	drift: 3,
};
/** The flag that goes with each cause, by its number. */
export const FLAG_OF: readonly Flag[] = STREAM_CAUSES.map((c) => FLAGS[c]);
/** What a person decided about a stretch, by number: nothing, keep, discard. */
export const DECISIONS = [null, 'keep', 'discard'] as const;

/** Whether a sample tells of its water: by decision, then by cause; of what nobody decided about first. */
export const TELLS: readonly (readonly boolean[])[] = DECISIONS.map((decision) =>
	STREAM_CAUSES.map((cause) => permits({ flag: FLAGS[cause], cause, decision }, 'wander')),
);
