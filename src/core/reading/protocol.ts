import type { Quantity } from '../quantity';
import { COUNTED } from './drops';
import type { StationKind } from './model';

/**
 * The minute of measuring, step by step (common practice; USGS National Field Manual A6 for rinsing and settling). Which
 * steps there are depends on the water and on what measures it. A step that was left out is kept with the reading, and the
 * checks look at it.
 */
export const STEPS = [
	'run',
	'catch',
	'place',
	'cup',
	'ec-first',
	'rinse',
	'shake',
	'deep',
	'swirl',
	'wait',
	'drops',
	'daylight',
	'blot',
	'move',
	'insert',
	'shade',
] as const;
export type StepCode = (typeof STEPS)[number];

/** How an instrument may speak by itself; `none` is typed in by hand. */
export const LIVE_KINDS = ['none', 'simulated'] as const;
export type LiveKind = (typeof LIVE_KINDS)[number];

export const INSTRUMENT_KINDS = [
	'ph',
	'ec',
	'combined',
	'drop_kit',
	'ion',
	'oxygen',
	'orp',
	'substrate',
	'air',
	'sensor_node',
] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

/** What a kind of instrument measures where its leaflet does not say; a node measures what it is made for. */
export const MEASURES: Readonly<Record<InstrumentKind, readonly Quantity[]>> = {
	ph: ['ph', 'temp'],
	ec: ['ec', 'tds', 'temp'],
	combined: ['ph', 'ec', 'tds', 'temp'],
	drop_kit: COUNTED,
	ion: ['no3', 'k', 'ca'],
	oxygen: ['do', 'temp'],
	orp: ['orp', 'mv'],
	substrate: ['moisture', 'substrate_ec', 'temp'],
	air: ['air_temp', 'humidity'],
	sensor_node: ['ph', 'ec'],
};

/**
 * The probes of a kind of instrument that are dipped in standards.
 * @example probesIn('combined') // ['ph', 'ec']
 */
export const probesIn = (kind: InstrumentKind): ('ph' | 'ec')[] =>
	MEASURES[kind].filter((q) => q === 'ph' || q === 'ec');

const SAMPLING: Record<StationKind, readonly StepCode[]> = {
	source: ['run', 'cup'],
	blend: ['place', 'cup'],
	mix: ['place'],
	reservoir: ['place'],
	root_zone: ['cup'],
	drain: ['catch'],
	standard: ['cup'],
};
const DIPPING: Record<InstrumentKind, readonly StepCode[]> = {
	combined: ['rinse', 'shake', 'deep', 'swirl', 'wait'],
	ph: ['rinse', 'shake', 'deep', 'swirl', 'wait'],
	ec: ['rinse', 'shake', 'deep', 'swirl', 'wait'],
	drop_kit: ['drops', 'daylight'],
	ion: ['rinse', 'blot', 'wait'],
	oxygen: ['rinse', 'deep', 'move', 'wait'],
	orp: ['rinse', 'shake', 'deep', 'wait'],
	substrate: ['insert', 'wait'],
	air: ['shade', 'wait'],
	sensor_node: [],
};
/** What is not dipped in a sample needs none drawn. */
const UNDIPPED: readonly InstrumentKind[] = ['substrate', 'air'];

/**
 * The usual protocol of a kind of station and instrument; water of few minerals has its EC dipped first.
 * @example usualProtocol('reservoir', 'drop_kit', false) // ['place', 'drops', 'daylight']
 */
export function usualProtocol(station: StationKind, instrument: InstrumentKind, fewMinerals: boolean): StepCode[] {
	return [
		...(UNDIPPED.includes(instrument) ? [] : SAMPLING[station]),
		...(fewMinerals && instrument === 'ph' ? (['ec-first'] as const) : []),
		...DIPPING[instrument],
	];
}

/**
 * Which steps were left out, by what was ticked: those passed over on the way to the last one done. Undefined when
 * nothing was ticked: nobody kept track.
 */
export function skippedSteps(
	steps: readonly { code: string }[],
	done: ReadonlySet<string>,
	passed: ReadonlySet<string>,
): string[] | undefined {
	if (done.size === 0 && passed.size === 0) return undefined;
	let last = -1;
	for (const [i, s] of steps.entries()) if (done.has(s.code) || passed.has(s.code)) last = i;
	return steps.slice(0, last + 1).flatMap((s) => (done.has(s.code) ? [] : [s.code]));
}
