/** Counts what a checker found of known faults, by reading and by episode. */
export interface Judged {
	fault: string;
	/** Faulty readings with the same name here are one episode; empty: the reading is its own. */
	episode: string;
	flagged: boolean;
	cause: string;
	suggested: number | null;
	truth: number | null;
	/** Neither honest nor a fault that a check must name. */
	exempt: boolean;
	where: string;
	plainFlagged: boolean;
}

interface Kind {
	readings: number;
	found: number;
	rightCause: number;
	suggestable: number;
	suggested: number;
	episodes: Set<string>;
	foundEpisodes: Set<string>;
}

/** Faults whose right name differs from what happened. */
const EXPECTED_CAUSE: Record<string, string> = { fahrenheit: 'unit-slip' };
const SUGGESTS = new Set(['unit-slip', 'decimal-slip', 'scale-mismatch', 'swapped', 'fahrenheit', 'no-compensation']);
/** A flag with one of these says something true of an honest reading, and is no false alarm. */
const TRUE_OF_HONEST = new Set(['low-ionic-strength', 'source-shift', 'mixing']);

const percent = (a: number, b: number) => (b === 0 ? '–' : `${((100 * a) / b).toFixed(1)} %`);

export class Tally {
	private readonly kinds = new Map<string, Kind>();
	private readonly falseByCause = new Map<string, number>();
	private honest = 0;
	private falseAlarms = 0;
	private truePositives = 0;
	private plain = { found: 0, false: 0 };

	add(world: string, j: Judged): void {
		if (j.fault === '') {
			if (j.exempt) return;
			this.honest++;
			if (j.plainFlagged) this.plain.false++;
			if (!j.flagged || TRUE_OF_HONEST.has(j.cause)) return;
			this.falseAlarms++;
			const key = `${j.cause} ${j.where}`;
			this.falseByCause.set(key, (this.falseByCause.get(key) ?? 0) + 1);
			return;
		}
		const k = this.kindOf(j.fault);
		const episode = `${world} ${j.episode === '' ? k.readings : j.episode}`;
		k.readings++;
		k.episodes.add(episode);
		if (j.plainFlagged) this.plain.found++;
		if (!j.flagged) return;
		k.found++;
		k.foundEpisodes.add(episode);
		this.truePositives++;
		if (j.cause !== (EXPECTED_CAUSE[j.fault] ?? j.fault)) return;
		k.rightCause++;
		if (!SUGGESTS.has(j.fault) || j.truth === null) return;
		k.suggestable++;
		if (j.suggested !== null && Math.abs(j.suggested - j.truth) <= Math.max(0.01 * Math.abs(j.truth), 1e-9))
			k.suggested++;
	}

	private kindOf(fault: string): Kind {
		let k = this.kinds.get(fault);
		if (!k) {
			k = {
				readings: 0,
				found: 0,
				rightCause: 0,
				suggestable: 0,
				suggested: 0,
				episodes: new Set(),
				foundEpisodes: new Set(),
			};
			this.kinds.set(fault, k);
		}
		return k;
	}

	report(title: string): string {
		const all = { readings: 0, found: 0, rightCause: 0, suggestable: 0, suggested: 0, episodes: 0, foundEpisodes: 0 };
		const lines: string[] = [];
		for (const [fault, k] of [...this.kinds].sort(([a], [b]) => a.localeCompare(b))) {
			lines.push(
				`| ${fault} | ${k.readings} | ${percent(k.found, k.readings)} | ${percent(k.foundEpisodes.size, k.episodes.size)} | ${percent(k.rightCause, k.found)} | ${percent(k.suggested, k.suggestable)} |`,
			);
			for (const key of ['readings', 'found', 'rightCause', 'suggestable', 'suggested'] as const) all[key] += k[key];
			all.episodes += k.episodes.size;
			all.foundEpisodes += k.foundEpisodes.size;
		}
		// Long sensor faults are most of the readings; the mean over kinds lets each kind count the same.
		const kinds = [...this.kinds.values()];
		const mean = (share: (k: Kind) => number) =>
			percent(
				kinds.reduce((sum, k) => sum + share(k), 0),
				kinds.length,
			);
		lines.push(
			`| **mean of kinds** | | ${mean((k) => k.found / k.readings)} | ${mean((k) => k.foundEpisodes.size / k.episodes.size)} | ${mean((k) => (k.found === 0 ? 0 : k.rightCause / k.found))} | |`,
		);
		const worst = [...this.falseByCause].sort((a, b) => b[1] - a[1]).slice(0, 10);
		return [
			`${title}; ${this.honest.toLocaleString('en-GB')} honest readings, ${all.readings.toLocaleString('en-GB')} faulty\n`,
			'| fault | readings | recall by reading | by episode | right cause | suggestion within 1 % |\n|---|---|---|---|---|---|',
			...lines,
			`| **all** | ${all.readings} | ${percent(all.found, all.readings)} | ${percent(all.foundEpisodes, all.episodes)} | ${percent(all.rightCause, all.found)} | ${percent(all.suggested, all.suggestable)} |`,
			`\nprecision ${percent(this.truePositives, this.truePositives + this.falseAlarms)}, false alarms ${((1000 * this.falseAlarms) / this.honest).toFixed(2)} per thousand honest readings`,
			`plain baseline: recall ${percent(this.plain.found, all.readings)}, precision ${percent(this.plain.found, this.plain.found + this.plain.false)}, false alarms ${((1000 * this.plain.false) / this.honest).toFixed(2)} per thousand`,
			...(worst.length > 0 ? [`\nfalse alarms by cause: ${worst.map(([k, n]) => `${k} ${n}`).join(', ')}`] : []),
		].join('\n');
	}
}
