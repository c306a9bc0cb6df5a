import type { Storage } from '@/core/probe/care';
import type { LotRow, ProbeRow } from '@/store/calibrations';
import type { InstrumentRow, StationRow, SystemRow } from '@/store/line';
import { PLAIN_INSTRUMENT, PLAIN_STATION } from '@/store/line';

/** Saltmarsh Yard: the invented glasshouse of all demo data. */
export const SITE = {
	name: 'Saltmarsh Yard',
	timezone: 'Europe/Amsterdam',
	units: { ec: 'mS/cm', temp: 'C', volume: 'L' } as const,
	settings: { latitude: 53, longitude: 5 },
};

export const SYSTEMS: Omit<SystemRow, 'id'>[] = [
	{
		code: 'pond',
		name: 'Pond',
		kind: 'raft_pond',
		volumeL: 2400,
		medium: 'water',
		crop: 'pak choi',
		stage: 'growing',
		aeration: 'air stone',
		watering: null,
		retired: false,
	},
	{
		code: 'gutters',
		name: 'Gutters',
		kind: 'drip_to_drain',
		volumeL: null,
		medium: 'coir bags',
		crop: 'strawberry',
		stage: 'fruiting',
		aeration: null,
		watering: { drippers: 96, bags: 24, dripperMlMin: 17, plants: 96, runsADay: 5, minutes: 6, heldL: 9 },
		retired: false,
	},
	{
		code: 'slabs',
		name: 'Slabs',
		kind: 'drip_recirculating',
		volumeL: 600,
		medium: 'slabs',
		crop: 'gerbera',
		stage: 'flowering',
		aeration: null,
		watering: null,
		retired: false,
	},
	{
		code: 'bench-tank',
		name: 'Bench tank',
		kind: 'passive_tank',
		volumeL: 40,
		medium: 'water',
		crop: 'chives',
		stage: 'growing',
		aeration: null,
		watering: null,
		retired: false,
	},
];

const station = (
	s: Partial<StationRow> & Pick<StationRow, 'code' | 'name' | 'kind'>,
	position: number,
): Omit<StationRow, 'id'> => ({
	...PLAIN_STATION,
	...s,
	position,
});

export const STATIONS: Omit<StationRow, 'id'>[] = [
	station(
		{
			code: 'borehole',
			name: 'Borehole',
			kind: 'source',
			ranges: { ph: [6.5, 8.4], ec: [300, 900] },
			rhythm: { ph: 'weekly', ec: 'weekly', temp: 'weekly' },
		},
		1,
	),
	station(
		{
			code: 'rain',
			name: 'Rain tank',
			kind: 'source',
			ranges: { ec: [0, 120] },
			rhythm: { ec: 'weekly', temp: 'weekly' },
		},
		2,
	),
	station(
		{
			code: 'ro',
			name: 'RO unit',
			kind: 'source',
			ranges: { ec: [0, 60] },
			fedBy: ['borehole'],
			rhythm: { ec: 'weekly', temp: 'weekly' },
		},
		3,
	),
	station(
		{
			code: 'mix',
			name: 'Mix tank',
			kind: 'mix',
			volumeL: 1000,
			ranges: { ph: [5.5, 6.2], ec: [1700, 2100] },
			fedBy: ['rain', 'ro', 'borehole'],
		},
		4,
	),
	station(
		{
			code: 'pond',
			name: 'Pond',
			kind: 'reservoir',
			system: 'pond',
			volumeL: 2400,
			ranges: { ph: [5.5, 6.5], ec: [1500, 2500] },
			fedBy: ['mix'],
		},
		5,
	),
	station(
		{
			code: 'gutters-feed',
			name: 'Gutters feed',
			kind: 'mix',
			system: 'gutters',
			ranges: { ph: [5.4, 6.2], ec: [1000, 1600] },
			fedBy: ['mix'],
		},
		6,
	),
	station(
		{
			code: 'gutters-drain',
			name: 'Gutters drain',
			kind: 'drain',
			system: 'gutters',
			ranges: { ph: [5.4, 6.8], ec: [1000, 2000] },
			fedBy: ['gutters-feed'],
		},
		7,
	),
	station(
		{
			code: 'slabs',
			name: 'Slabs tank',
			kind: 'reservoir',
			system: 'slabs',
			volumeL: 600,
			ranges: { ph: [5.3, 6.2], ec: [1800, 2500] },
			fedBy: ['mix'],
		},
		8,
	),
	station(
		{
			code: 'bench',
			name: 'Bench tank',
			kind: 'reservoir',
			system: 'bench-tank',
			volumeL: 40,
			shape: '40 x 30',
			ranges: { ph: [5.8, 6.8], ec: [1400, 2400] },
			fedBy: ['mix'],
		},
		9,
	),
];

const instrument = (
	i: Partial<InstrumentRow> & Pick<InstrumentRow, 'code' | 'name' | 'kind' | 'quantities'>,
): Omit<InstrumentRow, 'id'> => ({
	...PLAIN_INSTRUMENT,
	...i,
});

export const INSTRUMENTS: Omit<InstrumentRow, 'id'>[] = [
	instrument({
		code: 'plum',
		// The yard checks its two good pens as the month goes; Brass when somebody thinks of it.
		calibrateBy: 'monthly',
		name: 'Plum',
		// The demo has no device: Plum speaks through the simulated meter.
		live: 'simulated',
		kind: 'combined',
		quantities: {
			ph: { resolution: 0.01, accuracy: 0.05 },
			ec: { resolution: 10, accuracyPct: 2 },
			temp: { resolution: 0.1, accuracy: 0.5 },
		},
	}),
	instrument({ code: 'brass', name: 'Brass', kind: 'ph', quantities: { ph: { resolution: 0.1, accuracy: 0.1 } } }),
	instrument({
		code: 'minnow',
		calibrateBy: 'monthly',
		name: 'Minnow',
		kind: 'ec',
		ppmScale: 700,
		quantities: {
			ec: { resolution: 14.3, accuracyPct: 2 },
			tds: { resolution: 14.3, accuracyPct: 2 },
			temp: { resolution: 0.1, accuracy: 0.5 },
		},
	}),
	instrument({ code: 'fern', name: 'Fern', kind: 'ion', quantities: { no3: { resolution: 1, accuracyPct: 10 } } }),
	instrument({ code: 'moss', name: 'Moss', kind: 'ion', quantities: { k: { resolution: 1, accuracyPct: 10 } } }),
	instrument({ code: 'reed', name: 'Reed', kind: 'ion', quantities: { ca: { resolution: 1, accuracyPct: 10 } } }),
	instrument({ code: 'kit', name: 'Drop kit', kind: 'drop_kit', quantities: { ph: {} } }),
];

const lot = (name: string, standard: string): Omit<LotRow, 'id'> => ({
	name,
	standard,
	ownTable: null,
	tolerance: null,
	opened: null,
	expires: null,
	singleUse: false,
	retired: false,
});
export const LOTS = [lot('seven A', 'pH 7.00'), lot('four A', 'pH 4.01'), lot('salt A', 'KCl 1413')];

const probe = (instrument: string, quantity: 'ph' | 'ec', storage: Storage): ProbeRow => ({
	instrument,
	quantity,
	serial: '',
	inService: null,
	storage,
	storageRefilled: null,
	note: '',
});
export const PROBES = [
	probe('plum', 'ph', 'kcl_3m'),
	probe('plum', 'ec', 'kcl_3m'),
	probe('brass', 'ph', 'storage_solution'),
	probe('minnow', 'ec', 'dry'),
];
