import { type InstrumentKind, STEPS, type StepCode } from '@/core/reading/protocol';

/** A step of measuring as it is shown. */
export interface ShownStep {
	/** One of the steps known here, or `own-…` for a step of the grower's. */
	code: string;
	text: string;
	/** Why it is there; empty for an own step without a reason. */
	why: string;
}

const STEP_WORDS: Record<StepCode, readonly [text: string, why: string]> = {
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
	blot: [
		'Blot the sensor, then cover it with the sample twice',
		'The film of the last water is as much as the drop that is measured; rubbing harms the membrane.',
	],
	move: [
		'Keep the water moving past the membrane, no bubble on it',
		'The probe uses up the oxygen before it: in still water it reads less and less.',
	],
	insert: [
		'Same place and depth as always, pushed in firmly',
		'Moisture falls away from a dripper and grows with depth; a gap beside a rod is air.',
	],
	shade: [
		'Among the leaves, out of the light, with air moving past',
		'In the light it shows how warm the sensor is and not the air.',
	],
};

/** A known step in words. */
export const stepWords = (code: StepCode): ShownStep => ({ code, text: STEP_WORDS[code][0], why: STEP_WORDS[code][1] });

/** The steps of a station: the usual, or the grower's own list as it is kept, in which known steps get their reason. */
export const stepsHere = (
	own: readonly { code: string; text: string }[] | null,
	usual: readonly StepCode[],
): ShownStep[] =>
	own === null
		? usual.map(stepWords)
		: own.map(({ code, text }) => {
				const known = STEPS.find((s) => s === code);
				return { code, text, why: known ? STEP_WORDS[known][1] : '' };
			});

/** Said after saving: it protects the next reading, not this one. */
export const AFTERWARDS: Record<InstrumentKind, string> = {
	ph: 'Rinse, and back into its storage solution: dry glass is dead glass.',
	combined: 'Rinse, and back into its storage solution: dry glass is dead glass.',
	ec: 'Rinse, shake off, and put it away dry.',
	drop_kit: 'Rinse the tube.',
	ion: 'Rinse, blot, and close the cap.',
	oxygen: 'Rinse, and back into its moist cap.',
	orp: 'Rinse, and back into its storage solution.',
	substrate: 'Wipe the rods clean.',
	air: '',
	sensor_node: '',
};
