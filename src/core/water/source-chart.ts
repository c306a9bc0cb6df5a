/**
 * A source over time on an individuals-and-moving-range chart: limits are the mean ± 2.66 times the mean moving range
 * (3/1.128; NIST/SEMATECH e-Handbook 6.3.2.2), with the run rules of the Western Electric handbook (1956) and Nelson
 * (1984). A point that breaks a rule asks for a confirming sample; a confirmed shift becomes the new baseline.
 */
export interface ChartPoint {
	at: number;
	value: number;
}
export type RunRule = 'beyond-limits' | 'two-of-three' | 'four-of-five' | 'nine-one-side' | 'six-trending';
export interface Baseline {
	mean: number;
	meanRange: number;
	low: number;
	high: number;
	from: number;
}

/** 3/d2 and d2 of moving ranges of two. */
export const MOVING_RANGE_FACTOR = 3 / 1.128;

/**
 * Mean, mean moving range and limits of a record; null below two values.
 * @example baselineOf([780, 790, 770]).mean // 780
 */
export function baselineOf(values: readonly number[]): Baseline | null {
	if (values.length < 2) return null;
	const mean = values.reduce((a, b) => a + b, 0) / values.length;
	let ranges = 0;
	for (let i = 1; i < values.length; i++) ranges += Math.abs(values[i]! - values[i - 1]!);
	const meanRange = ranges / (values.length - 1);
	const reach = MOVING_RANGE_FACTOR * meanRange;
	return { mean, meanRange, low: mean - reach, high: mean + reach, from: values.length };
}

/** The rules that the newest of these values breaks against a baseline. */
export function brokenRules(values: readonly number[], b: Baseline): RunRule[] {
	const sigma = (b.high - b.mean) / 3;
	const z = values.map((v) => (sigma === 0 ? Math.sign(v - b.mean) * (v === b.mean ? 0 : 9) : (v - b.mean) / sigma));
	const broken: RunRule[] = [];
	const last = z.at(-1);
	if (last === undefined) return broken;
	const side = Math.sign(last);
	const beyond = (n: number, sd: number) => z.slice(-n).filter((x) => Math.sign(x) === side && Math.abs(x) > sd).length;
	if (Math.abs(last) > 3) broken.push('beyond-limits');
	if (z.length >= 3 && Math.abs(last) > 2 && beyond(3, 2) >= 2) broken.push('two-of-three');
	if (z.length >= 5 && Math.abs(last) > 1 && beyond(5, 1) >= 4) broken.push('four-of-five');
	if (z.length >= 9 && side !== 0 && beyond(9, 0) === 9) broken.push('nine-one-side');
	if (z.length >= 6) {
		const steps = z
			.slice(-6)
			.map((x, i, a) => (i === 0 ? 0 : Math.sign(x - a[i - 1]!)))
			.slice(1);
		if (steps.every((s) => s === 1) || steps.every((s) => s === -1)) broken.push('six-trending');
	}
	return broken;
}

export interface SourceShift {
	/** The first point of the new level. */
	since: number;
	from: number;
	to: number;
	/** A confirming point was taken and agrees. */
	confirmed: boolean;
	rule: RunRule;
}
export interface SourceChart {
	points: (ChartPoint & { rules: RunRule[]; segment: number })[];
	/** One baseline for each level that the source has had. */
	segments: Baseline[];
	shifts: SourceShift[];
	/** What wants doing now: a confirming sample, or nothing. */
	wants: 'more' | 'confirm' | 'nothing';
}

/** A baseline needs so many points before it judges. */
const NEEDS = 12;
/** Rules that tell a shift, and how many further samples must agree: a weak sign wants more. Trends are only shown. */
const CONFIRMED_BY: Record<RunRule, number> = {
	'beyond-limits': 1,
	'two-of-three': 1,
	'four-of-five': 3,
	'nine-one-side': 4,
	'six-trending': Number.POSITIVE_INFINITY,
};

/**
 * Follows a source point by point. The first twelve make the baseline; later ones are judged and join it while they fit.
 * A point that breaks a rule is pending; when the next agrees with it (within the limits around it) the shift is
 * confirmed and the baseline starts afresh there, when it returns the alarm is withdrawn.
 */
export function followSource(points: readonly ChartPoint[]): SourceChart {
	const chart: SourceChart = {
		points: [],
		segments: [],
		shifts: [],
		wants: points.length < NEEDS ? 'more' : 'nothing',
	};
	let begin = 0;
	let fitting: number[] = [];
	let base: Baseline | null = null;
	let pending: { index: number; rule: RunRule; agreed: number } | null = null;
	for (const [i, p] of points.entries()) {
		const segment = chart.segments.length;
		if (fitting.length < NEEDS) {
			fitting.push(p.value);
			chart.points.push({ ...p, rules: [], segment });
			base = baselineOf(fitting);
			continue;
		}
		const b = base!;
		const recent = points.slice(Math.max(begin, i - 8), i + 1).map((x) => x.value);
		const rules = brokenRules(recent, b);
		chart.points.push({ ...p, rules, segment });
		const rule = rules.find((r) => CONFIRMED_BY[r] < Number.POSITIVE_INFINITY);
		if (pending !== null) {
			const first = points[pending.index]!;
			const agrees =
				rule !== undefined &&
				Math.abs(p.value - first.value) <= b.high - b.mean &&
				Math.sign(p.value - b.mean) === Math.sign(first.value - b.mean);
			if (agrees) pending.agreed++;
			if (agrees && pending.agreed < CONFIRMED_BY[pending.rule]) continue;
			if (agrees) {
				chart.shifts.push({
					since: first.at,
					from: b.mean,
					to: (first.value + p.value) / 2,
					confirmed: true,
					rule: pending.rule,
				});
				chart.segments.push(b);
				begin = pending.index;
				for (let k = begin; k <= i; k++) chart.points[k]!.segment = chart.segments.length;
				fitting = points.slice(begin, i + 1).map((x) => x.value);
				// Until the new level has shown its own spread, it keeps that of the old one.
				base = {
					...b,
					mean: (first.value + p.value) / 2,
					low: (first.value + p.value) / 2 - (b.high - b.mean),
					high: (first.value + p.value) / 2 + (b.high - b.mean),
					from: 2,
				};
				pending = null;
				continue;
			}
			pending = null;
		}
		if (rule) pending = { index: i, rule, agreed: 0 };
		else {
			fitting.push(p.value);
			base = baselineOf(fitting);
		}
	}
	if (base) chart.segments.push(base);
	if (pending !== null) {
		const p = points[pending.index]!;
		chart.shifts.push({ since: p.at, from: base!.mean, to: p.value, confirmed: false, rule: pending.rule });
		chart.wants = 'confirm';
	}
	return chart;
}
