import type { JudgeContext } from '@/core/judge/context';
import { unitNamed } from '@/core/quantity';
import { parseTime } from '@/core/quantity/time';
import type { EventKind, StationKind, WaterEvent } from '@/core/reading/model';
import { checkStream } from '@/files/check-stream';
import { pen, stationOf } from '../helpers/small-site';

/**
 * A log as somebody wrote it, a line each: `day time station pen quantity value unit [wait 5] [at 18 °C] [no rinse]`, or
 * `day time station event_kind amount unit`. After an arrow what happened, by the cause that a check should give and the value that
 * was meant; without one the line is honest. `day 1..9` is written out for every day, the values taken in turn.
 */
export interface HandLog {
	/** What the log shows. */
	name: string;
	stations?: Record<string, StationKind>;
	zone?: string;
	lines: string;
}

const FIRST = Date.UTC(2026, 2, 1);
const DAY = 86_400_000;
const PENS: Record<string, Parameters<typeof pen>[1]> = { post: { continuous: true }, old: { compensates: false } };

interface Line {
	time: string;
	cells: string[];
	cause: string;
	meant: number | null;
	waitS: string;
	tempC: string;
	skipped: string;
}

function linesOf(text: string): { lines: Line[]; events: WaterEvent[]; zoneTimes: boolean } {
	const [lines, events]: [Line[], WaterEvent[]] = [[], []];
	let zoneTimes = false;
	for (const raw of text.trim().split('\n')) {
		const [written, happened = ''] = raw.split('→').map((s) => s.trim());
		if (written === '') continue;
		const m = /^(?:day (\d+)(?:\.\.(\d+))?|(\d{4}-\d{2}-\d{2})) (\d{1,2}:\d{2}) (.*)$/.exec(written!);
		if (!m) throw new Error(`not a line: ${raw}`);
		const [, from, to, date, clock, rest] = m;
		const days = date ? [0] : range(Number(from), Number(to ?? from));
		zoneTimes ||= date !== undefined;
		for (const [i, day] of days.entries()) {
			const [, words, waitS = '', tempC = '', rinse] = /^(.*?)(?: wait (\d+))?(?: at ([\d.]+) °C)?( no rinse)?$/.exec(
				rest!,
			)!;
			const cells = words!.split(' ').map((c) => {
				const turns = c.split('|');
				return turns[i % turns.length]!;
			});
			const time = date
				? `${date}T${clock!.padStart(5, '0')}`
				: new Date(FIRST + (day - 1) * DAY + minutesOf(clock!) * 60_000).toISOString();
			if (cells[1]!.includes('_') || cells[1] === 'calibrated') {
				const [station, kind, amount, unit] = cells;
				const at = parseTime(time, 'UTC');
				if (!at.ok) throw new Error(raw);
				events.push({
					at: at.at,
					station: station!,
					kind: kind as EventKind,
					amount: amount === undefined ? null : Number(amount),
					unit: unitNamed(unit ?? '') ?? null,
				});
				continue;
			}
			const [cause = '', meant] = happened.split(' meant ');
			lines.push({
				time,
				cells,
				cause,
				meant: meant === undefined ? null : Number(meant),
				waitS,
				tempC,
				skipped: rinse ? 'rinse' : '',
			});
		}
	}
	return { lines, events: events.sort((a, b) => a.at - b.at), zoneTimes };
}
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);
const minutesOf = (clock: string): number => 60 * Number(clock.split(':')[0]) + Number(clock.split(':')[1]);

/** What the checker says where the log says otherwise, a line each; empty where they agree. */
export async function disagreements(log: HandLog): Promise<string[]> {
	const { lines, events, zoneTimes } = linesOf(log.lines);
	// In the order in which they were written; by time where days are counted.
	if (!zoneTimes) lines.sort((a, b) => a.time.localeCompare(b.time));
	async function* csv() {
		yield 'time,station,instrument,quantity,value,unit,temp_c,wait_s,skipped\n';
		for (const l of lines) yield `${[l.time, ...l.cells.slice(0, 5), l.tempC, l.waitS, l.skipped].join(',')}\n`;
	}
	const codes = [...new Set(lines.map((l) => l.cells[0]!))];
	const pens = [...new Set(lines.map((l) => l.cells[1]!))];
	const site: JudgeContext = {
		stations: new Map(codes.map((c) => stationOf(c, log.stations?.[c] ?? 'reservoir'))),
		instruments: new Map(pens.map((p) => pen(p, PENS[p.replace(/\d$/, '')] ?? {}))),
	};
	let out = '';
	const now = () => FIRST + 400 * DAY;
	for await (const part of checkStream({ readings: csv(), events, site, zone: log.zone ?? 'UTC', altitudeM: 0, now }))
		out += part;
	const [head, ...rows] = out.trimEnd().split('\n');
	const at = (name: string) => head!.split(',').indexOf(name);
	return rows.flatMap((row, i) => {
		const cells = row.split(',');
		const { cause, meant } = lines[i]!;
		const flagged = cells[at('flag')] !== '1' && cells[at('flag')] !== '2';
		const said = flagged ? cells[at('cause')]! : '';
		const suggested = cells[at('suggested')] === '' ? null : Number(cells[at('suggested')]);
		const offered = meant === null || (suggested !== null && Math.abs(suggested / meant - 1) < 0.01);
		if (said === cause && offered) return [];
		return [`${row.slice(0, 60)}: said “${said}” ${suggested ?? ''}, was “${cause}” ${meant ?? ''}`];
	});
}
