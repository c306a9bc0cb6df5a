import type { ImportDone } from '@/contract/files';
import type { LocalTimeNote } from '@/core/quantity/time';
import type { TableFormat } from '@/files/table';
import { type Line, rowOf } from './import-lines';
import type { SiteContext } from './site';
import { AHEAD, isFarAhead } from './time-ahead';

const LISTED_PROBLEMS = 500;

/** What a file holds, what is wrong with it and what it would create, counted as its lines come. */
export class ImportReport {
	private readonly report: ImportDone;
	private readonly stations = new Set<string>();
	private readonly instruments = new Set<string>();
	private readonly local: Record<LocalTimeNote, number> = { 'site-zone': 0, 'repeated-hour': 0, 'skipped-hour': 0 };

	constructor(
		format: TableFormat,
		private readonly site: SiteContext,
		dryRun: boolean,
		private readonly now: number,
	) {
		this.report = {
			format: format.name,
			dryRun,
			lines: 0,
			good: 0,
			bad: 0,
			duplicates: 0,
			stored: 0,
			flagged: {},
			creates: { stations: [], instruments: [] },
			notes: [],
			problems: [],
			moreProblems: 0,
		};
	}

	get lines(): number {
		return this.report.lines;
	}
	get bad(): number {
		return this.report.bad;
	}

	/** Counts lines, and marks those that are of a time far ahead. @returns the good ones */
	take(lines: readonly Line[]): Line[] {
		const { report, site } = this;
		return lines.filter((l) => {
			report.lines++;
			const row = rowOf(l);
			if (row && isFarAhead(row.at, this.now)) l.problem = { column: 'time', message: AHEAD };
			if (l.problem) {
				this.refuse({ line: l.line, ...l.problem });
				return false;
			}
			report.good++;
			if (!row) return true;
			if (row.local) this.local[row.local]++;
			if ('station' in row && !site.known.stations.has(row.station)) this.stations.add(row.station);
			if ('instrument' in row && row.instrument !== '' && !site.known.instruments.has(row.instrument))
				this.instruments.add(row.instrument);
			return true;
		});
	}

	/** A line that looked good turns out not to be. */
	revoke(line: number, column: string, message: string): void {
		this.report.good--;
		this.refuse({ line, column, message });
	}

	private refuse(problem: ImportDone['problems'][number]): void {
		this.report.bad++;
		if (this.report.problems.length < LISTED_PROBLEMS) this.report.problems.push(problem);
		else this.report.moreProblems++;
	}

	duplicates(count: number): void {
		this.report.duplicates += count;
	}
	stored(count: number): void {
		this.report.stored += count;
	}
	/** What was counted as stored is not: all of it was taken back. */
	takenBack(): void {
		this.report.stored = 0;
	}

	finish(flagged: ImportDone['flagged'] = {}): ImportDone {
		const { local, report } = this;
		const note = (n: number, what: string) =>
			n > 0 && report.notes.push(`${n} ${n === 1 ? 'line has a' : 'lines have a'} ${what}`);
		note(
			local['site-zone'] + local['repeated-hour'] + local['skipped-hour'],
			`time without offset, taken in the site’s zone ${this.site.site.timezone}.`,
		);
		note(
			local['repeated-hour'],
			'time in the hour that daylight saving repeats; the first of the two was taken, or the second where its series had come past the first.',
		);
		note(local['skipped-hour'], 'time in the hour that daylight saving skips; it was moved forward.');
		report.creates = { stations: [...this.stations].sort(), instruments: [...this.instruments].sort() };
		report.flagged = flagged;
		return report;
	}
}
