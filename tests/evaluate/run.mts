// npm run evaluate [-- first last]: how good the headless checker is on simulated worlds, by seeds never used while developing.
import { parse } from 'csv-parse/sync';
import { checkStream } from '@/core/format/check-stream';
import { csvLine } from '@/core/format/table';
import { formatTime } from '@/core/format/time';
import { unitNamed } from '@/core/quantity';
import type { WaterEvent } from '@/core/reading/model';
import { madSigma, median } from '@/core/series/robust';
import { INSTRUMENTS, STATIONS, SYSTEMS } from '@/demo/saltmarsh';
import { season } from '@/demo/season';
import { instrumentInfo, stationInfo } from '@/service/site';
import { sensorWorld } from '@/sim/sensor-world';

const END = Date.UTC(2026, 6, 14, 5, 30);
const [first = 9001, last = 9020] = process.argv.slice(2).map(Number);

interface Row {
	at: number;
	station: string;
	instrument: string;
	quantity: string;
	value: string;
	unit: string;
	tempC: number | null;
	waitS: number | null;
	fault: string;
	truth: number | null;
	exempt: boolean;
}
interface Tally {
	faults: number;
	found: number;
	cause: number;
	suggested: number;
	suggestable: number;
}

const tallies = new Map<string, Tally>();
const baseline = { faults: 0, found: 0, false: 0 };
const falseByCause = new Map<string, number>();
let honest = 0;
let falseAlarms = 0;
let flaggedTrue = 0;

const EXPECTED_CAUSE: Record<string, string> = { fahrenheit: 'unit-slip' };
const SLIPS = new Set(['unit-slip', 'decimal-slip', 'scale-mismatch', 'swapped', 'fahrenheit']);
/** A flag with one of these says something true of an honest reading, and is no false alarm. */
const TRUE_OF_HONEST = new Set(['low-ionic-strength', 'source-shift', 'mixing']);

async function evaluate(
	rows: readonly Row[],
	events: readonly WaterEvent[],
	site: Parameters<typeof checkStream>[0]['site'],
): Promise<void> {
	async function* csv() {
		yield csvLine(['time', 'station', 'instrument', 'quantity', 'value', 'unit', 'temp_c', 'wait_s', 'note']);
		for (const r of rows)
			yield csvLine([
				formatTime(r.at),
				r.station,
				r.instrument,
				r.quantity,
				r.value,
				r.unit,
				r.tempC === null ? '' : String(r.tempC),
				r.waitS === null ? '' : String(r.waitS),
				'',
			]);
	}
	let out = '';
	for await (const line of checkStream({ readings: csv(), events, site, zone: 'UTC', now: () => END + 864e5 }))
		out += line;
	const flags = parse(out, { columns: true }) as Record<string, string>[];
	const plain = plainFlags(rows);
	for (const [i, r] of rows.entries()) {
		const f = flags[i]!;
		const flagged = Number(f.flag) >= 3 && Number(f.flag) !== 9;
		if (r.fault !== '') {
			const t = tallies.get(r.fault) ?? { faults: 0, found: 0, cause: 0, suggested: 0, suggestable: 0 };
			t.faults++;
			if (flagged) {
				t.found++;
				flaggedTrue++;
				const right = f.cause === (EXPECTED_CAUSE[r.fault] ?? r.fault);
				if (right) t.cause++;
				if (SLIPS.has(r.fault) && right) {
					t.suggestable++;
					const before = r.truth ?? 0;
					if (Math.abs(Number(f.suggested) - before) <= Math.max(0.01 * Math.abs(before), 1e-9)) t.suggested++;
				}
			}
			tallies.set(r.fault, t);
			baseline.faults++;
			if (plain[i]) baseline.found++;
		} else if (!r.exempt) {
			honest++;
			if (flagged && !TRUE_OF_HONEST.has(f.cause!)) {
				falseAlarms++;
				const key = `${f.cause} ${r.quantity} ${r.station}`;
				falseByCause.set(key, (falseByCause.get(key) ?? 0) + 1);
			}
			if (plain[i]) baseline.false++;
		}
	}
}

const LIMITS: Record<string, [number, number]> = { ph: [4, 9], ec: [0, 6000], tds: [0, 6000], temp: [2, 40] };

/** The plain way: fixed limits, and more than six scaled MADs off a rolling median of fifteen. */
function plainFlags(rows: readonly Row[]): boolean[] {
	const windows = new Map<string, number[]>();
	return rows.map((r) => {
		const unit = unitNamed(r.unit);
		const value = Number(r.value) * (unit === 'mS/cm' ? 1000 : unit === 'ppm700' ? 1 / 0.7 : unit === 'ppm500' ? 2 : 1);
		const quantity = r.quantity === 'tds' ? 'ec' : r.quantity;
		const key = `${r.station} ${quantity}`;
		const window = windows.get(key) ?? [];
		const [low, high] = LIMITS[quantity]!;
		const off =
			window.length >= 7 &&
			Math.abs(value - median(window)) >
				6 * Math.max(madSigma(window), quantity === 'ph' ? 0.05 : 0.02 * Math.abs(median(window)));
		window.push(value);
		if (window.length > 15) window.shift();
		windows.set(key, window);
		return value < low || value > high || off;
	});
}

const handSite = {
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
};

const seconds = performance.now();
for (let seed = first; seed <= last; seed++) {
	const hand = season(END, seed);
	await evaluate(
		hand.readings.map((r) => ({
			...r,
			value: r.digits,
			fault: r.fault === 'wrong-station' && r.quantity === 'temp' ? '' : r.fault,
			truth: r.shown,
			exempt: r.fault === 'wrong-station' && r.quantity === 'temp',
		})),
		hand.events.map((e) => ({
			at: e.at,
			station: e.station,
			kind: e.kind,
			amount: e.amount,
			unit: unitNamed(e.unit) ?? null,
		})),
		handSite,
	);
	const node = sensorWorld(seed, END - 21 * 864e5, 21, seed % 4 === 0);
	await evaluate(
		node.readings.map((r) => ({
			at: r.at,
			station: 'tank',
			instrument: 'post',
			quantity: r.quantity,
			value: r.value,
			unit: r.unit,
			tempC: null,
			waitS: null,
			fault: r.fault,
			truth: null,
			exempt: r.mixing,
		})),
		node.events.map((e) => ({
			at: e.at,
			station: 'tank',
			kind: e.kind,
			amount: e.amount,
			unit: unitNamed(e.unit) ?? null,
		})),
		{
			stations: new Map([['tank', { code: 'tank', kind: 'reservoir', system: null, volumeL: 600, ranges: {} }]]),
			instruments: new Map(),
		},
	);
}

const percent = (a: number, b: number) => (b === 0 ? '–' : `${((100 * a) / b).toFixed(1)} %`);
const all = [...tallies.values()].reduce(
	(s, t) => ({
		faults: s.faults + t.faults,
		found: s.found + t.found,
		cause: s.cause + t.cause,
		suggested: s.suggested + t.suggested,
		suggestable: s.suggestable + t.suggestable,
	}),
	{ faults: 0, found: 0, cause: 0, suggested: 0, suggestable: 0 },
);
console.log(
	`seeds ${first} to ${last}; ${honest.toLocaleString('en-GB')} honest readings, ${all.faults.toLocaleString('en-GB')} faulty; ${((performance.now() - seconds) / 1000).toFixed(0)} s\n`,
);
console.log('| fault | readings | recall | right cause | suggestion within 1 % |\n|---|---|---|---|---|');
for (const [fault, t] of [...tallies].sort())
	console.log(
		`| ${fault} | ${t.faults} | ${percent(t.found, t.faults)} | ${percent(t.cause, t.found)} | ${percent(t.suggested, t.suggestable)} |`,
	);
console.log(
	`| **all** | ${all.faults} | ${percent(all.found, all.faults)} | ${percent(all.cause, all.found)} | ${percent(all.suggested, all.suggestable)} |`,
);
console.log(
	`\nprecision ${percent(flaggedTrue, flaggedTrue + falseAlarms)}, false alarms ${((1000 * falseAlarms) / honest).toFixed(2)} per thousand honest readings`,
);
console.log(
	`plain baseline: recall ${percent(baseline.found, baseline.faults)}, precision ${percent(baseline.found, baseline.found + baseline.false)}, false alarms ${((1000 * baseline.false) / honest).toFixed(2)} per thousand`,
);
if (falseByCause.size > 0)
	console.log(
		`\nfalse alarms by cause: ${[...falseByCause]
			.sort((a, b) => b[1] - a[1])
			.slice(0, 8)
			.map(([k, n]) => `${k} ${n}`)
			.join(', ')}`,
	);
