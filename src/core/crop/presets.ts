/**
 * Ranges to start from, all editable: common extension ranges (from memory, no single source). EC in µS/cm at 25 °C,
 * for the feed. Seedlings take about half.
 */
export interface CropPreset {
	crop: string;
	ph: readonly [number, number];
	ecUsCm: readonly [number, number];
}

const GENERAL_PH = [5.5, 6.5] as const;

export const CROPS: readonly CropPreset[] = [
	{ crop: 'lettuce', ph: GENERAL_PH, ecUsCm: [800, 1800] },
	{ crop: 'leafy brassicas (pak choi, kale)', ph: GENERAL_PH, ecUsCm: [1500, 2500] },
	{ crop: 'basil', ph: GENERAL_PH, ecUsCm: [1000, 1600] },
	{ crop: 'mint', ph: GENERAL_PH, ecUsCm: [2000, 2400] },
	{ crop: 'chives', ph: GENERAL_PH, ecUsCm: [1800, 2400] },
	{ crop: 'celery', ph: GENERAL_PH, ecUsCm: [1800, 2400] },
	{ crop: 'spinach', ph: GENERAL_PH, ecUsCm: [1800, 2300] },
	{ crop: 'strawberry', ph: GENERAL_PH, ecUsCm: [1000, 1600] },
	{ crop: 'cucumber', ph: GENERAL_PH, ecUsCm: [1700, 2500] },
	{ crop: 'tomato', ph: GENERAL_PH, ecUsCm: [2000, 4000] },
	{ crop: 'pepper', ph: GENERAL_PH, ecUsCm: [1800, 2800] },
	{ crop: 'gerbera', ph: GENERAL_PH, ecUsCm: [1800, 2500] },
	{ crop: 'rose', ph: GENERAL_PH, ecUsCm: [1500, 2500] },
	{ crop: 'orchid', ph: GENERAL_PH, ecUsCm: [400, 1000] },
	{ crop: 'carnivorous plants', ph: [4, 6], ecUsCm: [0, 100] },
	{ crop: 'something else', ph: GENERAL_PH, ecUsCm: [1000, 2000] },
];

/** Of what grown plants are fed (common practice, no source). */
export const SEEDLING_SHARE = 0.5;

export const STAGES = ['seedling', 'growing', 'flowering or fruiting'] as const;
export type Stage = (typeof STAGES)[number];

/** The range of a crop at a stage; seedlings take about half the EC. */
export function rangesFor(crop: string, stage: Stage): { ph: [number, number]; ec: [number, number] } {
	const preset = CROPS.find((c) => c.crop === crop) ?? CROPS[CROPS.length - 1]!;
	const part = stage === 'seedling' ? SEEDLING_SHARE : 1;
	return { ph: [...preset.ph], ec: [preset.ecUsCm[0] * part, preset.ecUsCm[1] * part] };
}

/** Kinds of system with what usually goes with them, and the stations of their line. */
export interface SystemPreset {
	kind:
		| 'raft_pond'
		| 'channel'
		| 'bucket'
		| 'passive_tank'
		| 'drip_to_drain'
		| 'drip_recirculating'
		| 'tower'
		| 'flood_table';
	name: string;
	volumeL: number | null;
	medium: string;
	stations: readonly ('source' | 'reservoir' | 'mix' | 'drain')[];
}

export const SYSTEM_PRESETS: readonly SystemPreset[] = [
	{ kind: 'bucket', name: 'Bucket with air stone', volumeL: 20, medium: 'water', stations: ['source', 'reservoir'] },
	{ kind: 'raft_pond', name: 'Raft pond', volumeL: 1000, medium: 'water', stations: ['source', 'reservoir'] },
	{
		kind: 'channel',
		name: 'Channels with a tank',
		volumeL: 200,
		medium: 'film of water',
		stations: ['source', 'reservoir'],
	},
	{ kind: 'passive_tank', name: 'Passive tank', volumeL: 40, medium: 'water', stations: ['source', 'reservoir'] },
	{
		kind: 'drip_to_drain',
		name: 'Drip, drain not reused',
		volumeL: null,
		medium: 'coir',
		stations: ['source', 'mix', 'drain'],
	},
	{
		kind: 'drip_recirculating',
		name: 'Drip, recirculating',
		volumeL: 200,
		medium: 'slabs',
		stations: ['source', 'reservoir', 'drain'],
	},
	{ kind: 'tower', name: 'Tower', volumeL: 80, medium: 'water', stations: ['source', 'reservoir'] },
	{ kind: 'flood_table', name: 'Flood table', volumeL: 100, medium: 'pebbles', stations: ['source', 'reservoir'] },
];
