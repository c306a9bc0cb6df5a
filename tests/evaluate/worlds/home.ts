import { unitNamed } from '@/core/quantity';
import type { WaterEvent } from '@/core/reading/model';
import { INSTRUMENTS, STATIONS, SYSTEMS } from '@/demo/saltmarsh';
import { season } from '@/demo/season';
import { instrumentInfo, stationInfo } from '@/service/site';
import { benchWorld } from '@/sim/bench-world';
import { sensorWorld } from '@/sim/sensor-world';
import { DAY, station, type World } from './world';

/** The worlds that the checks were written with. */
const END = Date.UTC(2026, 6, 14, 5, 30);

const asEvents = (
	events: readonly { at: number; station?: string; kind: WaterEvent['kind']; amount: number | null; unit: string }[],
	station = '',
): WaterEvent[] =>
	events
		.map((e) => ({
			at: e.at,
			station: e.station ?? station,
			kind: e.kind,
			amount: e.amount,
			unit: unitNamed(e.unit) ?? null,
		}))
		.sort((a, b) => a.at - b.at);

/** Eight months of hand readings at Saltmarsh Yard: slips of typing beside top-ups, doses, changes, a shifting source. */
export function handWorld(seed: number): World {
	const hand = season(END, seed);
	return {
		name: 'hand',
		rows: hand.readings.map((r) => {
			const wrongTemp = r.fault === 'wrong-station' && r.quantity === 'temp';
			return {
				...r,
				value: r.digits,
				skipped: '',
				fault: wrongTemp ? '' : r.fault,
				episode: '',
				truth: r.shown,
				exempt: wrongTemp,
			};
		}),
		events: asEvents(hand.events),
		calibrations: [],
		site: {
			stations: new Map(
				STATIONS.map((s) => [
					s.code,
					stationInfo(
						{ ...s, id: 0 },
						SYSTEMS.map((y) => ({ ...y, id: 0 })),
					),
				]),
			),
			instruments: new Map(INSTRUMENTS.map((i) => [i.code, instrumentInfo({ ...i, id: 0 })])),
		},
	};
}

/** Weeks of a five-minute node beside a hand reading each morning. */
export function nodeWorld(seed: number): World {
	const node = sensorWorld(seed, END - 28 * DAY, 28, seed % 4 === 0);
	return {
		name: 'node',
		rows: node.readings.map((r) => ({
			...r,
			station: 'tank',
			tempC: null,
			waitS: null,
			skipped: '',
			truth: null,
			exempt: r.mixing,
		})),
		events: asEvents(node.events, 'tank'),
		calibrations: [],
		site: { stations: new Map([station('tank', 'reservoir', 600)]), instruments: new Map() },
	};
}

/** Months of daily rounds with a simulated meter, and what goes wrong in the minute of measuring. */
export function roundsWorld(seed: number): World {
	const bench = benchWorld(seed, END - 140 * DAY);
	return {
		name: 'rounds',
		rows: bench.readings.map((r) => ({ ...r, episode: '' })),
		events: asEvents(bench.events),
		calibrations: bench.calibrations.map((c) => ({
			at: c.at,
			instrument: c.instrument,
			quantity: c.quantity,
			kind: c.kind,
			tempC: c.tempC,
			note: '',
			settleS: null,
			points: [{ standard: '', nominal: c.nominal, asFound: c.asFound, asLeft: c.asLeft, lot: '', mv: null }],
		})),
		site: {
			stations: new Map([
				station('tap', 'source', null),
				station('ro', 'source', null),
				station('tank', 'reservoir', 600),
			]),
			instruments: new Map(),
		},
	};
}
