/** Counts what a checker found of known faults: by world, and by fault. */
export interface Judged {
	at: number;
	/** What happened, by the cause that names it; empty: honest. */
	fault: string;
	/** Faulty readings of one name are one episode; empty: the reading is its own. */
	episode: string;
	flagged: boolean;
	cause: string;
	suggested: number | null;
	truth: number | null;
	/** Neither honest nor a fault that a check must name. */
	exempt: boolean;
	series: string;
	plainFlagged: boolean;
}

/** Faults whose right name differs from what happened. */
const EXPECTED_CAUSE: Record<string, string> = { fahrenheit: 'unit-slip' };
const SUGGESTS = new Set(['unit-slip', 'decimal-slip', 'scale-mismatch', 'swapped', 'fahrenheit', 'no-compensation']);
/** A flag with one of these says something true of an honest reading, and is no false alarm. */
const TRUE_OF_HONEST = new Set(['low-ionic-strength', 'source-shift', 'mixing']);
/** Alarms of one series and cause that follow each other within this time are one. */
const ONE_ALARM_MS = 86_400_000;

interface Episode {
	fault: string;
	readings: number;
	found: number;
	/** How often each cause was named. */
	causes: Map<string, number>;
	suggestable: number;
	suggested: number;
}
class Counts {
	readonly episodes = new Map<string, Episode>();
	honest = 0;
	falseAlarms = 0;
	falseEpisodes = 0;
	readonly falseByCause = new Map<string, number>();
	private readonly lastAlarm = new Map<string, number>();
	plain = { found: 0, false: 0 };

	add(seed: string, j: Judged): void {
		if (j.fault === '') {
			if (!j.exempt) this.addHonest(seed, j);
			return;
		}
		if (j.plainFlagged) this.plain.found++;
		const name = `${seed} ${j.fault} ${j.episode === '' ? `${j.series} ${j.at} ${this.episodes.size}` : j.episode}`;
		const e = this.episodes.get(name) ?? {
			fault: j.fault,
			readings: 0,
			found: 0,
			causes: new Map(),
			suggestable: 0,
			suggested: 0,
		};
		this.episodes.set(name, e);
		e.readings++;
		if (!j.flagged) return;
		e.found++;
		e.causes.set(j.cause, (e.causes.get(j.cause) ?? 0) + 1);
		if (j.cause !== expected(j.fault) || !SUGGESTS.has(j.fault) || j.truth === null) return;
		e.suggestable++;
		if (j.suggested !== null && Math.abs(j.suggested - j.truth) <= Math.max(0.01 * Math.abs(j.truth), 1e-9))
			e.suggested++;
	}

	private addHonest(seed: string, j: Judged): void {
		this.honest++;
		if (j.plainFlagged) this.plain.false++;
		if (!j.flagged || TRUE_OF_HONEST.has(j.cause)) return;
		this.falseAlarms++;
		const key = `${j.cause} ${j.series}`;
		this.falseByCause.set(key, (this.falseByCause.get(key) ?? 0) + 1);
		const alarm = `${seed} ${key}`;
		const last = this.lastAlarm.get(alarm);
		if (last === undefined || Math.abs(j.at - last) > ONE_ALARM_MS) this.falseEpisodes++;
		this.lastAlarm.set(alarm, j.at);
	}
}

const expected = (fault: string): string => EXPECTED_CAUSE[fault] ?? fault;
/** The cause that most of an episode's readings were given. */
const named = (e: Episode): string | undefined => [...e.causes].sort((a, b) => b[1] - a[1])[0]?.[0];
const percent = (a: number, b: number) => (b === 0 ? '–' : `${((100 * a) / b).toFixed(1)} %`);
const sum = <T>(list: readonly T[], of: (one: T) => number) => list.reduce((total, one) => total + of(one), 0);

export class Tally {
	private readonly worlds = new Map<string, Counts>();

	add(world: string, seed: string, j: Judged): void {
		const counts = this.worlds.get(world) ?? new Counts();
		this.worlds.set(world, counts);
		counts.add(seed, j);
	}

	/** Precision counts alarms that are one for a day as one. */
	byWorld(): string {
		const lines = [...this.worlds].map(([world, c]) => {
			const all = [...c.episodes.values()];
			const found = all.filter((e) => e.found > 0);
			const right = found.filter((e) => named(e) === expected(e.fault));
			return `| ${[
				world,
				c.honest.toLocaleString('en-GB'),
				all.length,
				percent(found.length, all.length),
				percent(found.length, found.length + c.falseEpisodes),
				percent(right.length, found.length),
				percent(
					sum(all, (e) => e.suggested),
					sum(all, (e) => e.suggestable),
				),
				((1000 * c.falseAlarms) / c.honest).toFixed(2),
			].join(' | ')} |`;
		});
		return [
			'| world | honest readings | episodes | recall | precision | right cause | suggestion within 1 % | false per thousand |',
			'|---|---|---|---|---|---|---|---|',
			...lines,
		].join('\n');
	}

	/** Each fault of all worlds together, and what was wrongly said of honest readings. */
	byFault(): string {
		const worlds = [...this.worlds.values()];
		const episodes = worlds.flatMap((c) => [...c.episodes.values()]);
		const faults = [...new Set(episodes.map((e) => e.fault))].sort();
		const row = (name: string, list: readonly Episode[]) => {
			const found = list.filter((e) => e.found > 0);
			const readings = sum(list, (e) => e.readings);
			return `| ${[
				name,
				readings,
				percent(
					sum(list, (e) => e.found),
					readings,
				),
				percent(found.length, list.length),
				percent(found.filter((e) => named(e) === expected(e.fault)).length, found.length),
				percent(
					sum(list, (e) => e.suggested),
					sum(list, (e) => e.suggestable),
				),
			].join(' | ')} |`;
		};
		const wrong = new Map<string, number>();
		for (const e of episodes) {
			const cause = e.found === 0 ? 'nothing' : named(e)!;
			if (cause === expected(e.fault)) continue;
			const key = `${e.fault} as ${cause}`;
			wrong.set(key, (wrong.get(key) ?? 0) + 1);
		}
		const most = (m: Iterable<[string, number]>) =>
			[...m]
				.sort((a, b) => b[1] - a[1])
				.slice(0, 25)
				.map(([k, n]) => `${k} ${n}`)
				.join(', ');
		const plain = { found: sum(worlds, (c) => c.plain.found), false: sum(worlds, (c) => c.plain.false) };
		const honest = sum(worlds, (c) => c.honest);
		return [
			'| fault | readings | recall by reading | by episode | right cause | suggestion within 1 % |\n|---|---|---|---|---|---|',
			...faults.map((f) =>
				row(
					f,
					episodes.filter((e) => e.fault === f),
				),
			),
			row('**all**', episodes),
			`\nplain baseline: recall ${percent(
				plain.found,
				sum(episodes, (e) => e.readings),
			)}, false alarms ${((1000 * plain.false) / honest).toFixed(2)} per thousand`,
			`\nmissed or named otherwise: ${most(wrong)}`,
			`\nfalse alarms by cause: ${most(worlds.flatMap((c) => [...c.falseByCause]))}`,
		].join('\n');
	}
}
