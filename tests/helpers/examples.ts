import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import type { Answer } from './application';

/** Every operation is asked once and its answer parsed; one that is added without an example here does not compile. */
type Asked = { [A in keyof Contract]: Call<A & string, Contract[A]> };

const water = { ph: 7.6, alkalinity_mg_l_caco3: 220, target_ph: 6, temp_c: 18, volume_l: 100 };
/** Numbers of things that the demo holds, or that were begun for this. */
export interface Ids {
	reading: number;
	other: number;
	calibration: number;
	round: number;
	batch: number;
	irrigation: number;
	step: number;
	advised: 'more-runs' | 'longer-runs' | 'weaker-feed' | 'flush' | 'fewer-runs';
	event: number;
	attachment: number;
	waiting: number;
	stretch: number;
	condition: number;
	stations: string[];
}
export const examples = (ids: Ids): Asked => ({
	// While nothing that is entered below has changed what is advised.
	'POST /irrigation-steps': { body: { system: 'gutters', kind: ids.advised } },
	'GET /health': {},
	'GET /openapi.json': {},
	'POST /calc/convert': { body: { value: 1, from: 'mS/cm', to: 'uS/cm' } },
	'POST /calc/compensate': { body: { ec_us_cm: 1200, temp_c: 18 } },
	'POST /calc/standard': { body: { standard: 'pH 7.00', temp_c: 20 } },
	'POST /calc/calibration': {
		body: { quantity: 'ph', temp_c: 20, points: [{ nominal: 7, as_found: 7.1 }] },
	},
	'POST /calc/restate': {
		body: {
			quantity: 'ph',
			value: 6,
			taken_at: '2026-07-05T08:00:00Z',
			from: { at: '2026-07-01T08:00:00Z', kind: 'adjust', points: [] },
			to: { at: '2026-07-09T08:00:00Z', points: [{ nominal: 7, found: 7.2 }] },
		},
	},
	'POST /calc/storage-solution': { body: { molar: 3, volume_ml: 100 } },
	'POST /calc/blend': { body: { waters: [{ ec_us_cm: 800 }, { ec_us_cm: 20 }], target: { ec_us_cm: 400 } } },
	'POST /calc/acid': { body: { ...water, acid: { kind: 'nitric', percent_w_w: 38, density_g_ml: 1.24 } } },
	'POST /calc/base': {
		body: {
			...water,
			ph: 5.2,
			alkalinity_mg_l_caco3: 10,
			base: { kind: 'potassium hydroxide', percent_w_w: 30, density_g_ml: 1.29 },
		},
	},
	'POST /calc/oxygen': { body: { temp_c: 20, mg_l: 8 } },
	'POST /calc/vapour': { body: { air_c: 24, humidity_pct: 60 } },
	'POST /calc/dilute': { body: { volume_l: 100, ec_us_cm: 2000, target_ec_us_cm: 1600, with_ec_us_cm: 400 } },
	'POST /calc/nutrient-dose': { body: { volume_l: 100, rate_ml_per_l: 2 } },
	'POST /calc/water-report': { body: { ions: { ca_mg_l: 80, hco3_mg_l: 240 } } },
	'POST /calc/drain': { body: { applied_l: 10, drained_l: 3, feed_ec_us_cm: 2000, drain_ec_us_cm: 2600 } },
	'POST /calc/extract': { body: { method: 'pour-through', read_us_cm: 3000, feed_us_cm: 1500 } },
	'POST /calc/loop-salt': {
		body: { volume_l: 600, drunk_l_per_day: 40, source_mmol_l: 1, now_mmol_l: 1, limit_mmol_l: 4, taken_mmol_l: 0.4 },
	},
	'GET /readings': { query: { station: 'pond', limit: 3 } },
	'POST /readings': { body: { station: 'pond', instrument: 'plum', quantity: 'ph', value: '6,1', unit: 'pH' } },
	'POST /readings/judge': { body: { station: 'pond', quantity: 'ec', value: 1.7, unit: 'mS/cm' } },
	'GET /readings/:id/history': { params: { id: ids.reading } },
	'POST /readings/:id/decision': { params: { id: ids.reading }, body: { kind: 'keep' } },
	'POST /readings/decisions': { body: { readings: [{ id: ids.reading, after: 'keep' }], kind: 'keep' } },
	'POST /readings/corrections': { body: { ids: [ids.reading], station: 'slabs', reason: 'wrong tank' } },
	'GET /episodes': {},
	'POST /episodes/:id/decision': { params: { id: ids.waiting }, body: { kind: 'keep' } },
	'POST /readings/:id/correction': { params: { id: ids.other }, body: { value: 6.3, unit: 'pH' } },
	'POST /readings/undo': {},
	'GET /nodes': {},
	'POST /nodes': { body: { code: 'gull', station: 'pond', quantities: ['ph'] } },
	'POST /nodes/:code/token': { params: { code: 'gull' } },
	'DELETE /nodes/:code/token': { params: { code: 'gull' } },
	'POST /ingest': {},
	'GET /sensors/apart': {},
	'GET /sensors/episodes': {},
	'POST /sensors/episodes/:id/decision': {
		params: { id: ids.stretch },
		body: { kind: 'keep', until: '2026-07-14T09:00:00Z' },
	},
	'GET /watch': {},
	'POST /watch/conditions': { body: { station: 'pond', kind: 'out-of-range', quantity: 'ph', minutes: 10 } },
	'POST /watch/conditions/:id/off': { params: { id: ids.condition }, body: { off: true } },
	'PUT /watch/settings': { body: { quiet: { from: 1320, to: 360 } } },
	'POST /watch/alerts/:id/snooze': { params: { id: 0 }, body: { minutes: 0 } },
	'POST /watch/seen': {},
	'GET /mailbox': {},
	'GET /trends': { query: { station: 'pond', from: '2026-06-01T00:00:00Z', to: '2026-07-15T00:00:00Z' } },
	'GET /explanations': { query: { station: 'pond', from: '2026-06-15T00:00:00Z', to: '2026-07-15T00:00:00Z' } },
	'GET /stations/:code/series': {
		params: { code: 'pond' },
		query: { quantity: 'ph', from: '2026-07-01T00:00:00Z', to: '2026-07-15T00:00:00Z' },
	},
	'GET /events': { query: { limit: 5 } },
	'GET /events/:id/history': { params: { id: ids.event } },
	'POST /events/:id/withdrawal': { params: { id: ids.event }, body: { withdrawn: false } },
	'POST /events/:id/correction': { params: { id: ids.event }, body: { amount: 2 } },
	'POST /events': { body: { station: 'pond', kind: 'water_added', amount: 20, unit: 'L' } },
	'GET /week': { query: { from: '2026-07-06' } },
	'GET /site': {},
	'PUT /site': { body: { name: 'Saltmarsh Yard', timezone: 'Europe/Amsterdam', units: { ec: 'mS/cm' } } },
	'POST /sample': {},
	'DELETE /sample': {},
	'GET /memory': { query: { stations: '["pond"]' } },
	'GET /systems': {},
	'POST /systems': { body: { code: 'tower', kind: 'tower' } },
	'GET /stations': {},
	'POST /stations': { body: { code: 'tower-tank', kind: 'reservoir', system: 'tower', volume_l: 60 } },
	'POST /stations/order': { body: { codes: ids.stations } },
	'GET /instruments': {},
	'POST /instruments': { body: { code: 'wren', kind: 'ph' } },
	'GET /rounds/line': {},
	'GET /rounds/today': {},
	'POST /rounds': {},
	'POST /rounds/:id/finish': { params: { id: ids.round }, body: { left_out: [{ station: 'rain', reason: 'frozen' }] } },
	'GET /reports': {},
	'POST /reports': { body: { station: 'borehole', ions: { ca_mg_l: 90 } } },
	'POST /reports/read': { body: { text: 'calcium 90 mg/L' } },
	'GET /sources': {},
	'GET /plans': {},
	'POST /plans': {
		body: {
			system: 'slabs',
			version: 0,
			stages: [{ name: 'growing', days: 28, ec_us_cm: [1500, 2200], ph: [5.5, 6.2], begun: '2026-07-01' }],
		},
	},
	'POST /plans/:system/stage': { params: { system: 'slabs' }, body: { index: 0, version: 1 } },
	'POST /plans/:system/end': { params: { system: 'slabs' }, body: { version: 2 } },
	'GET /products': {},
	'POST /products': {
		body: { name: 'spare acid', kind: 'acid', chemical: 'nitric', percent_w_w: 38, density_g_ml: 1.24 },
	},
	'GET /recipes': {},
	'POST /recipes': { body: { name: 'leaf again', parts: [{ product: 'feed A and B' }], target_ec_us_cm: 1700 } },
	'POST /recipes/put-away': { body: { name: 'leaf again' } },
	'POST /mix/dose': { body: { station: 'pond', product: 'pH down', target_ph: 5.8, ph: 6.4 } },
	'POST /mix/jug': {
		body: {
			product: 'spare acid',
			litres: 1,
			steps: [
				{ ml: 0, ph: 6.5 },
				{ ml: 0.5, ph: 6 },
				{ ml: 1, ph: 5.5 },
			],
		},
	},
	'GET /leaf': { query: { system: 'gutters', leaves: 'young', signs: 'pale_between_veins,slow' } },
	'GET /drains': { query: { system: 'gutters' } },
	'GET /uptake': { query: { station: 'slabs', days: 400 } },
	'GET /irrigations': { query: { system: 'gutters' } },
	'POST /irrigations': { body: { system: 'gutters', minutes: 6, applied_cups_ml: [100, 104], drained_cups_ml: [90] } },
	'POST /irrigations/:id/withdrawal': { params: { id: ids.irrigation }, body: { withdrawn: true } },
	'POST /irrigation-steps/:id/withdrawal': { params: { id: ids.step }, body: {} },
	'GET /batches': {},
	'POST /batches': {
		body: {
			station: 'mix',
			plan: {
				litres: 100,
				water: 'borehole',
				water_ec_us_cm: 780,
				pours: [{ product: 'feed A and B', per_l: 2 }],
				target_ec_us_cm: 1700,
				target_ph: 5.8,
			},
		},
	},
	'POST /batches/:id/steps': { params: { id: ids.batch }, body: { follows: 0, step: 'done', words: 'done' } },
	'GET /changes': {},
	'GET /meters/:code/stream': { params: { code: 'plum' } },
	'POST /meters/:code/act': { params: { code: 'plum' }, body: { do: 'rinse' } },
	'GET /probes': {},
	'GET /probes/:instrument/:quantity': { params: { instrument: 'plum', quantity: 'ph' } },
	'PUT /probes/:instrument/:quantity': { params: { instrument: 'plum', quantity: 'ph' }, body: { storage: 'kcl_3m' } },
	'POST /probe-events': { body: { instrument: 'plum', quantity: 'ph', kind: 'cleaned', before: 6, after: 6.1 } },
	'GET /calibrations': { query: { instrument: 'plum' } },
	'POST /calibrations': {
		body: {
			instrument: 'plum',
			quantity: 'ph',
			kind: 'check',
			temp_c: 20,
			points: [{ standard: 'pH 7.00', as_found: 7.05 }],
		},
	},
	'POST /calibrations/:id/withdrawal': { params: { id: ids.calibration }, body: { withdrawn: true } },
	'GET /restatements': {},
	'GET /lots': {},
	'POST /lots': { body: { name: 'seven Z', standard: 'pH 7.00' } },
	'POST /import': {},
	'GET /judging': {},
	'GET /jobs/:id': { params: { id: 'nothing' } },
	'DELETE /jobs/:id': { params: { id: 'nothing' } },
	'GET /attachments': { query: { event: ids.event } },
	'POST /attachments': {
		body: { event: ids.event, name: 'note.txt', type: 'text/plain', base64: btoa('yellow tips') },
	},
	'GET /attachments/:id/file': { params: { id: ids.attachment } },
	'DELETE /attachments/:id': { params: { id: ids.attachment } },
	'POST /sheets/look': {},
	'GET /mappings': {},
	'POST /mappings': {
		body: {
			name: 'my sheet',
			mapping: {
				lines_before: 0,
				columns: [
					{ name: 'Date', use: { as: 'date' } },
					{ name: 'pH', use: { as: 'quantity', quantity: 'ph', unit: 'pH' } },
				],
				date_order: 'dmy',
				station: 'pond',
				instrument: '',
				clock: '07:30',
			},
		},
	},
	'GET /imports': {},
	'POST /imports/:key/undo': { params: { key: 'none' } },
	'GET /export.zip': {},
	'GET /audit': { query: { text: 'station', limit: 5 } },
	'GET /backups': {},
	'POST /backups': { query: { try: '0' } },
	'POST /restore': {},
	'GET /me': {},
	'GET /people': {},
	'GET /sign-ins': {},
	'GET /passkeys': {},
	'GET /sites': {},
	'POST /sites': { body: { name: 'Hill Yard', timezone: 'Europe/Dublin' } },
	// From here on whoever asks has signed in.
	'POST /people/owner': { body: { name: 'Wren', passphrase: OWNERS } },
	'POST /sign-in': { body: { name: 'wren', passphrase: OWNERS, as: 'token' } },
	'POST /people/codes': { body: { role: 'helper' } },
	'POST /people/join': { body: { code: 'none', name: 'Linnet', passphrase: 'four plain words together' } },
	'PUT /people/:id': { params: { id: '0' }, body: { role: 'visitor' } },
	'POST /me/join': { body: { code: 'none' } },
	'PUT /me': { body: { so_far: OWNERS, pin: '2468' } },
	'DELETE /sign-ins/:id': { params: { id: '0' } },
	'POST /passkeys/begin': {},
	'POST /passkeys': { body: { response: {}, label: '' } },
	'DELETE /passkeys/:id': { params: { id: '0' } },
	'POST /passkeys/sign-in/begin': {},
	'POST /passkeys/sign-in': { body: { response: {} } },
	'POST /shared-device': { body: { label: 'phone at the tank' } },
	'GET /shared-device/people': {},
	'POST /shared-device/person': { body: { id: 0, pin: '1111' } },
	'POST /shared-device/leave': {},
	'POST /sign-out': {},
});

export const OWNERS = 'copper kettle under snow';
const BLANK = examples({
	reading: 0,
	other: 0,
	calibration: 0,
	round: 0,
	batch: 0,
	irrigation: 0,
	step: 0,
	advised: 'flush',
	event: 0,
	attachment: 0,
	waiting: 0,
	stretch: 0,
	condition: 0,
	stations: [],
});
/** Of no instrument. */
const OUT_OF_RANGE = { samples: [{ at: '2026-07-14T08:00:00Z', quantity: 'temp', value: 80, unit: 'C' }] };

/** What an example gives; an address of a node takes its token. */
export interface Given {
	params?: Record<string, unknown>;
	query?: Record<string, unknown>;
	body?: unknown;
	token?: string;
}

/** An example as a request: its method, the path below /api/v1, and what is sent. */
export function asRequest(address: string, { params = {}, query = {}, body, token }: Given) {
	const [method, pattern] = address.split(' ') as [string, string];
	const path = pattern.replace(/:(\w+)/g, (_, n: string) => encodeURIComponent(String(params[n])));
	const search = new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)])).toString();
	const sent =
		address === 'POST /import' || address === 'POST /sheets/look'
			? 'time,station,instrument,quantity,value,unit\n2026-07-14T09:00:00Z,pond,plum,ph,6.2,pH\n'
			: JSON.stringify(body ?? (address === 'POST /ingest' ? OUT_OF_RANGE : undefined));
	const headers: Record<string, string> = token ? { authorization: `Bearer ${token}` } : {};
	return { method, path: `${path}?${search}`, headers, ...(sent === undefined ? {} : { body: sent }) };
}

/** Begins what the examples need beside the demo. @returns its numbers, and the token of a node */
export async function prepared(
	json: (address: keyof Contract & string, given: Given) => Promise<Answer>,
): Promise<{ ids: Ids; token: string }> {
	const { readings } = await json('GET /readings', { query: { station: 'pond', quantity: 'ph', limit: 2 } });
	const { calibrations } = await json('GET /calibrations', { query: { instrument: 'minnow' } });
	const round = await json('POST /rounds', {});
	const event = await json('POST /events', BLANK['POST /events'] as Given);
	const attachment = await json('POST /attachments', {
		body: { reading: readings[0].id, name: 'a.txt', type: 'text/plain', base64: btoa('a') },
	});
	const batch = await json('POST /batches', BLANK['POST /batches'] as Given);
	// A drain of today, as the demo’s own are of another season.
	const ec = (value: string) => [{ quantity: 'ec', value, unit: 'mS/cm', instrument: 'plum' }];
	await json('POST /irrigations', {
		body: { system: 'gutters', applied_l: 10, drained_l: 1, feed: ec('1.41'), drain: ec('2.1') },
	});
	const drains = await json('GET /drains', { query: { system: 'gutters', days: 1000 } });
	await json('POST /nodes', { body: { code: 'tern', station: 'pond' } });
	const { token } = await json('POST /nodes/:code/token', { params: { code: 'tern' } });
	await json('POST /ingest', { token });
	const watched = await json('POST /watch/conditions', BLANK['POST /watch/conditions'] as Given);
	const ids: Ids = {
		condition: watched.id,
		stretch: (await json('GET /sensors/episodes', {})).episodes[0].id,
		step: drains.steps[0].id,
		advised: drains.advice.kind,
		reading: readings[0].id,
		other: readings[1].id,
		calibration: calibrations.at(-1).id,
		round: round.id,
		batch: batch.id,
		irrigation: (await json('GET /irrigations', {})).irrigations[0].id,
		event: event.id,
		attachment: attachment.id,
		waiting: (await json('GET /episodes', {})).episodes.at(-1).newest,
		// One is made by the example before.
		stations: [...(await json('GET /stations', {})).stations.map((s: { code: string }) => s.code), 'tower-tank'],
	};
	return { ids, token };
}
