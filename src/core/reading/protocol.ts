import type { StationKind } from './model';

/**
 * The minute of measuring, step by step, with the reason behind each (common practice; USGS National Field Manual A6 for
 * rinsing and settling). Which steps there are depends on the water and on what measures it. A step that was left out is
 * kept with the reading, and the checks look at it.
 */
export interface ProtocolStep {
	/** One of the codes below, or `own-…` for a step of the grower's. */
	code: string;
	text: string;
	/** Why it is there; empty for an own step without a reason. */
	why: string;
}

/** How an instrument may speak by itself; `none` is typed in by hand. */
export const LIVE_KINDS = ['none', 'simulated'] as const;
export type LiveKind = (typeof LIVE_KINDS)[number];

export const INSTRUMENT_KINDS = ['ph', 'ec', 'combined', 'drop_kit', 'sensor_node'] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

const CATALOGUE = {
	run: ['Run the tap or hose for two minutes', 'What stood in the pipe is not what comes out of the ground.'],
	catch: [
		'Catch the drip in a rinsed cup, mid-irrigation',
		'The first drops carry what dried in the pipe; a cup that held feed adds salt.',
	],
	place: [
		'Same place and depth as always, pumps on',
		'Edges and the surface differ from the tank; still water is layered.',
	],
	cup: ['Rinse the cup three times with the sample', 'A film of the last water is enough to change a thin one.'],
	'ec-first': [
		'Dip EC before pH',
		'Potassium chloride leaks from a pH electrode; in water of few minerals that shows in the EC.',
	],
	rinse: [
		'Probe out of its cap, rinse it in clean water',
		'Storage solution is salt; a drop of it lifts the EC of pure water several times over.',
	],
	shake: ['Shake it off, do not wipe the bulb', 'Wiping charges the glass and scratches its gel layer.'],
	deep: [
		'Into the sample, deep enough to cover the probe',
		'EC is only right when the cell is covered to its vent hole.',
	],
	swirl: ['Swirl to free bubbles', 'A bubble between the electrodes reads low.'],
	wait: ['Wait until the last digits stand', 'Glass answers slowly, and slower the fewer ions there are.'],
	drops: ['Fill to the mark, count the drops', 'One drop more or a few millimetres of water change the colour.'],
	daylight: [
		'Compare in daylight, by the printed value',
		'Lamps for plants shift colours; a second pair of eyes helps where colours look alike.',
	],
} as const satisfies Record<string, readonly [text: string, why: string]>;
export type StepCode = keyof typeof CATALOGUE;

/** Said after saving: it protects the next reading, not this one. */
export const AFTERWARDS: Record<InstrumentKind, string> = {
	ph: 'Rinse, and back into its storage solution: dry glass is dead glass.',
	combined: 'Rinse, and back into its storage solution: dry glass is dead glass.',
	ec: 'Rinse, shake off, and put it away dry.',
	drop_kit: 'Rinse the tube.',
	sensor_node: '',
};

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
	sensor_node: [],
};

/**
 * A step of the protocol by its code; undefined for a code that is none.
 * @example stepNamed('rinse').code // 'rinse'
 */
export const stepNamed = (code: string): ProtocolStep | undefined =>
	Object.hasOwn(CATALOGUE, code)
		? { code, text: CATALOGUE[code as StepCode][0], why: CATALOGUE[code as StepCode][1] }
		: undefined;

/** Every step that there is, to choose from. */
export const ALL_STEPS: readonly ProtocolStep[] = Object.keys(CATALOGUE).map((c) => stepNamed(c)!);

/** The usual protocol of a kind of station and instrument; water of few minerals has its EC dipped first. */
export function usualProtocol(station: StationKind, instrument: InstrumentKind, fewMinerals: boolean): ProtocolStep[] {
	const dipping = DIPPING[instrument];
	const codes: StepCode[] = [
		...SAMPLING[station],
		...(fewMinerals && instrument === 'ph' ? (['ec-first'] as const) : []),
		...dipping,
	];
	return codes.map((c) => stepNamed(c)!);
}

/** A grower's own list as it is kept: known steps get their reason, others keep their words. */
export const ownProtocol = (steps: readonly { code: string; text: string }[]): ProtocolStep[] =>
	steps.map((s) => ({ code: s.code, text: s.text, why: stepNamed(s.code)?.why ?? '' }));

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
