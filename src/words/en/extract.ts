import type { ExtractMethod } from '@/core/rootzone/extract';

/** What a method is called, and how it is done; the same way each time, or two readings cannot be compared. */
export const EXTRACT_WORDS: Record<ExtractMethod, { name: string; steps: string[] }> = {
	press: {
		name: 'Press or squeeze',
		steps: [
			'Take medium from the middle of several bags, an hour after a run.',
			'Squeeze it through a clean cloth; the first drops are thrown away.',
			'Read EC and pH of what comes.',
		],
	},
	'pour-through': {
		name: 'Pour-through',
		steps: [
			'Water to saturation, and wait an hour.',
			'Stand the pot over a clean saucer and pour on just enough pure water that some 50 mL run through.',
			'Read EC and pH of those; of several pots.',
		],
	},
	'saturated-paste': {
		name: 'Saturated paste',
		steps: [
			'Mix medium with pure water until it just glistens and no water stands on it.',
			'Wait an hour; draw the solution off through a filter.',
			'Read EC and pH.',
		],
	},
	'extract-1-1.5': {
		name: '1:1.5 by volume',
		steps: [
			'Bring the medium to the moisture at which water just appears when it is pressed.',
			'One part of it, lightly pressed, into one and a half parts of pure water, by volume.',
			'Shake for twenty minutes, filter, read EC and pH.',
		],
	},
	'extract-1-2': {
		name: '1:2 by volume',
		steps: [
			'One part of medium into two parts of pure water, by volume.',
			'Stir, wait half an hour, stir again, filter.',
			'Read EC and pH.',
		],
	},
	sensor: {
		name: 'Sensor in the medium',
		steps: [
			'Take the EC of the pore water where the sensor gives it, not that of the bulk.',
			'Read it at the same time after a run each time: a drying bag reads wrong.',
			'Hold it against a press of the same bag now and then.',
		],
	},
};
