// npm run -s check -- READINGS.csv [--events EVENTS.csv] [--calibrations CALS.csv] [--config CONFIG.json]
import { createReadStream, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { SENSITIVITY } from '@/core/judge/context';
import type { WaterEvent } from '@/core/reading/model';
import {
	type CalibrationGroup,
	type CalibrationLine,
	calibrationLine,
	groupCalibrations,
} from '@/files/calibrations-row';
import { type CheckConfig, checkConfig, instrumentsOf, stationsOf } from '@/files/check-config';
import { checkStream, openTable, UnreadableFile } from '@/files/check-stream';
import { csvRecords, NotText } from '@/files/csv-stream';
import { eventRow } from '@/files/events-row';
import { CALIBRATIONS, EVENTS } from '@/files/table';

const USAGE =
	'Usage: npm run -s check -- READINGS.csv [--events EVENTS.csv] [--calibrations CALS.csv] [--config CONFIG.json]';

class CannotRead extends Error {}

function readConfig(path: string | undefined): CheckConfig {
	if (!path) return {};
	let json: unknown;
	try {
		json = JSON.parse(readFileSync(path, 'utf8'));
	} catch (error) {
		throw new CannotRead(`${path}: ${(error as Error).message}`);
	}
	const parsed = checkConfig.safeParse(json);
	if (parsed.success) return parsed.data;
	const issue = parsed.error.issues[0]!;
	throw new CannotRead(`${path}: ${issue.path.join('.')}: ${issue.message}`);
}

async function readCalibrations(
	path: string | undefined,
	zone: string,
	config: CheckConfig,
): Promise<CalibrationGroup[]> {
	if (!path) return [];
	const instruments = instrumentsOf(config);
	const records = csvRecords(createReadStream(path));
	const first = await records.next();
	const header = openTable(first.value?.[0], CALIBRATIONS);
	const lines: CalibrationLine[] = [];
	for await (const batch of records)
		for (const record of batch) {
			if (record.damage) throw new CannotRead(`${path}: line ${record.line}: ${record.damage}`);
			const result = calibrationLine(record.cells, header, zone, (code) => instruments.get(code));
			if (!result.ok)
				throw new CannotRead(
					`${path}: line ${record.line}, column ${result.problem.column}: ${result.problem.message}`,
				);
			lines.push(result.row);
		}
	return groupCalibrations(lines);
}

async function readEvents(path: string | undefined, zone: string): Promise<WaterEvent[]> {
	if (!path) return [];
	const records = csvRecords(createReadStream(path));
	const first = await records.next();
	const header = openTable(first.value?.[0], EVENTS);
	const events: WaterEvent[] = [];
	for await (const batch of records)
		for (const record of batch) {
			if (record.damage) throw new CannotRead(`${path}: line ${record.line}: ${record.damage}`);
			const result = eventRow(record.cells, header, zone);
			if (!result.ok)
				throw new CannotRead(
					`${path}: line ${record.line}, column ${result.problem.column}: ${result.problem.message}`,
				);
			const { at, station, kind, amount, unit } = result.row;
			events.push({ at, station, kind, amount, unit });
		}
	return events.sort((a, b) => a.at - b.at);
}

const write = (text: string): Promise<void> =>
	new Promise((resolve, reject) => process.stdout.write(text, (error) => (error ? reject(error) : resolve())));

async function main(): Promise<void> {
	let args: ReturnType<typeof readArguments>;
	try {
		args = readArguments();
	} catch (error) {
		throw new CannotRead(`${(error as Error).message}\n${USAGE}`);
	}
	const [path] = args.positionals;
	if (!path || args.positionals.length > 1) throw new CannotRead(USAGE);
	const config = readConfig(args.values.config);
	const zone = config.timezone ?? 'UTC';
	const flags = checkStream({
		readings: createReadStream(path),
		events: await readEvents(args.values.events, zone),
		calibrations: await readCalibrations(args.values.calibrations, zone, config),
		site: {
			stations: stationsOf(config),
			instruments: instrumentsOf(config),
			tolerance: SENSITIVITY[config.sensitivity ?? 'usual'],
		},
		calibrateDays: (code) => config.instruments?.[code]?.calibrate_days,
		zone,
		altitudeM: config.altitude_m ?? 0,
		now: () => Date.now(),
	});
	for await (const lines of flags) await write(lines);
}

function readArguments() {
	return parseArgs({
		allowPositionals: true,
		options: { events: { type: 'string' }, calibrations: { type: 'string' }, config: { type: 'string' } },
	});
}

main().catch((error: NodeJS.ErrnoException) => {
	if (error.code === 'EPIPE') process.exit(0);
	const known =
		error instanceof CannotRead ||
		error instanceof UnreadableFile ||
		error instanceof NotText ||
		typeof error.code === 'string';
	process.stderr.write(`${known ? error.message : error.stack}\n`);
	process.exit(2);
});
