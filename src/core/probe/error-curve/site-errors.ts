import { type DriftModel, learnDrift } from '../drift';
import { driftIntervals } from './drift-intervals';
import { type FoulingSpan, foulingAt } from './fouling';
import { type Deviation, type Happening, JointErrors, type JointModel } from './joint';
import type { Pair, Sighting } from './pairs';
import { type ProbeCalibration, type ProbeJump, type Stretch, stretchAt, stretchesOf, wander } from './stretch';

/**
 * The errors of all probes of a site in one quantity: calibrations of each, and every pair of readings of one water.
 *
 * What a reading was worth is worked out at the visit that ends its stretch, from everything that had happened until then; after the
 * last visit it is what was known when it was taken. So nothing that is learned later of another probe moves what was settled.
 */
export interface ProbeOfSite {
	code: string;
	/** Ascending in time. */
	calibrations: readonly ProbeCalibration[];
	/** Ascending in time. */
	jumps: readonly ProbeJump[];
	/** A drop kit: read off colours, never calibrated; half the width of its step, pH. Its bias stays what it is. */
	kit?: { halfStep: number } | undefined;
}

/** A jump that nobody wrote down: 0.3 pH, 5 % of EC (common practice, no source). */
const HIDDEN_JUMP = { ph: 0.3, ec: 0.05 } as const;

export interface ProbeErrors {
	drift: DriftModel;
	stretches: readonly Stretch[];
	fouling: readonly FoulingSpan[];
	/** Deviation of the error from the line of the calibrations: pH, or share for EC. */
	deviationAt: (at: number) => Deviation;
	/** Pairs that tell of a stretch: when, with whom, what was shown, and how much each counted (1 all, 0 nothing). */
	pairsIn: (stretch: Stretch) => MetPair[];
}
export interface MetPair {
	id: number;
	at: number;
	other: string;
	/** Reading of this probe. */
	reading: number;
	value: number;
	otherValue: number;
	weight: number;
}

interface Known {
	probe: ProbeOfSite;
	drift: DriftModel;
	stretches: Stretch[];
	fouling: FoulingSpan[];
	/** Windows worked out so far, by the beginning of the stretch. */
	windows: Map<number, { errors: JointErrors; place: number }>;
}
interface Component {
	codes: string[];
	pairs: { pair: Pair; id: number }[];
	model: JointModel;
	causal: JointErrors;
	happenings: Happening[];
}

const byTime = (a: Happening, b: Happening) => a.at - b.at || ORDER[a.kind] - ORDER[b.kind];
/** A reading of the very time of a visit was taken after it. */
const ORDER = { standard: 0, set: 1, pair: 2 } as const;

export class SiteErrors {
	private readonly known = new Map<string, Known>();
	private readonly componentOf = new Map<string, Component>();

	/** @param pairs ascending in time; of probes that are not listed, none */
	constructor(
		private readonly quantity: 'ph' | 'ec',
		probes: readonly ProbeOfSite[],
		private readonly pairs: readonly Pair[],
	) {
		for (const probe of probes) {
			const drift = learnDrift(quantity, driftIntervals(quantity, probe.calibrations, probe.jumps));
			const cut = stretchesOf(quantity, probe.calibrations, probe.jumps, drift);
			this.known.set(probe.code, { probe, drift, ...cut, windows: new Map() });
		}
		for (const component of this.components())
			for (const code of component.codes) this.componentOf.set(code, component);
	}

	/** Probes that met one another, directly or by others, each with all its pairs. */
	private components(): Component[] {
		const parent = new Map<string, string>();
		const root = (code: string): string => {
			let at = code;
			while (parent.has(at)) at = parent.get(at)!;
			return at;
		};
		for (const { a, b } of this.pairs) {
			if (!this.known.has(a.probe) || !this.known.has(b.probe)) continue;
			const [x, y] = [root(a.probe), root(b.probe)];
			if (x !== y) parent.set(x, y);
		}
		const groups = new Map<string, { codes: string[]; pairs: { pair: Pair; id: number }[] }>();
		for (const code of this.known.keys()) {
			const key = root(code);
			const group = groups.get(key) ?? { codes: [], pairs: [] };
			group.codes.push(code);
			groups.set(key, group);
		}
		for (const [id, pair] of this.pairs.entries())
			if (this.known.has(pair.a.probe) && this.known.has(pair.b.probe))
				groups.get(root(pair.a.probe))!.pairs.push({ pair, id });
		return [...groups.values()].map((g) => this.component(g.codes, g.pairs));
	}

	private component(codes: string[], pairs: Component['pairs']): Component {
		const model: JointModel = {
			start: codes.map((c) => this.startVariance(this.known.get(c)!)),
			wander: codes.map((c) => {
				const { drift, probe } = this.known.get(c)!;
				return probe.kit ? 0 : wander(this.quantity, drift, 1);
			}),
			jump: HIDDEN_JUMP[this.quantity],
		};
		const happenings: Happening[] = [];
		for (const [place, code] of codes.entries()) happenings.push(...this.visits(code, place, pairs));
		for (const { pair, id } of pairs) {
			const h = this.met(pair, id, codes, (s) => this.asKnown(s));
			if (h) happenings.push(h);
		}
		happenings.sort(byTime);
		const causal = new JointErrors(model);
		for (const h of happenings) causal.take(h);
		return { codes, pairs, model, causal, happenings };
	}

	private startVariance({ probe, stretches }: Known): number {
		return probe.kit ? probe.kit.halfStep ** 2 / 3 : stretches[0]!.startVariance;
	}

	/** What calibrations and jumps do to the deviation from what was known before them. */
	private visits(code: string, place: number, pairs: Component['pairs']): Happening[] {
		const { probe, stretches } = this.known.get(code)!;
		if (probe.kit) return [];
		return stretches.slice(1).flatMap((s, i): Happening[] => {
			const before = stretches[i]!;
			const set: Happening = { at: s.from, kind: 'set', probe: place, variance: s.startVariance };
			if (before.endVariance === null || !before.last) return [set];
			// Seen at what the probe was used for since its last visit: the error of a probe is not the same along its scale.
			const usual = usualValue(pairs, code, before) ?? before.span!.low;
			const surprise = before.lineAt(usual, before.to) - before.knownAt(usual);
			return [
				{
					at: s.from,
					kind: 'standard',
					probe: place,
					value: this.quantity === 'ph' ? surprise : surprise / usual,
					variance: before.endVariance,
				},
				set,
			];
		});
	}

	/** A value without what was known of its probe then. */
	private asKnown(s: Sighting): number {
		const { stretches, fouling } = this.known.get(s.probe)!;
		const value = this.withoutFouling(s.value, fouling, s.at);
		return value - stretchAt(stretches, s.at).knownAt(value);
	}

	private withoutFouling(value: number, fouling: readonly FoulingSpan[], at: number): number {
		if (fouling.length === 0) return value;
		const f = foulingAt(fouling, at);
		return this.quantity === 'ph' ? value - f : value * (1 - f);
	}

	private met(pair: Pair, id: number, codes: readonly string[], corrected: (s: Sighting) => number): Happening | null {
		const [va, vb] = [corrected(pair.a), corrected(pair.b)];
		const value = this.quantity === 'ph' ? va - vb : Math.log(va / vb);
		if (!Number.isFinite(value)) return null;
		// The same water shows the same colour again: what rounding to a colour errs by does not average out.
		const noise = Math.hypot(pair.noise, this.halfStep(pair.a.probe), this.halfStep(pair.b.probe));
		return {
			at: pair.at,
			kind: 'pair',
			a: codes.indexOf(pair.a.probe),
			b: codes.indexOf(pair.b.probe),
			value,
			noise,
			id,
		};
	}

	private halfStep(code: string): number {
		return this.known.get(code)!.probe.kit?.halfStep ?? 0;
	}

	/** The same stretch with its line drawn to the visit that ends it, looked at from there. */
	private window(known: Known, stretch: Stretch): { errors: JointErrors; place: number } {
		const kept = known.windows.get(stretch.from);
		if (kept) return kept;
		const component = this.componentOf.get(known.probe.code)!;
		const place = component.codes.indexOf(known.probe.code);
		const finite = Number.isFinite(stretch.from);
		const errors = new JointErrors(
			component.model,
			finite ? { at: stretch.from, state: component.causal.stateAt(stretch.from) } : null,
		);
		if (finite) errors.take({ at: stretch.from, kind: 'set', probe: place, variance: stretch.startVariance });
		for (const h of within(component.happenings, (x) => x.at, stretch.from, stretch.to)) {
			if (h.kind === 'pair') {
				const pair = this.pairs[h.id]!;
				const own = pair.a.probe === known.probe.code || pair.b.probe === known.probe.code;
				const again = own
					? this.met(pair, h.id, component.codes, (s) =>
							s.probe === known.probe.code ? this.alongLine(known, stretch, s) : this.asKnown(s),
						)
					: h;
				if (again) errors.take(again);
			} else if (h.probe !== place && h.at > stretch.from) errors.take(h);
		}
		if (stretch.endVariance !== null)
			errors.take({ at: stretch.to, kind: 'standard', probe: place, value: 0, variance: stretch.endVariance });
		const made = { errors, place };
		known.windows.set(stretch.from, made);
		return made;
	}

	private alongLine(known: Known, stretch: Stretch, s: Sighting): number {
		const value = this.withoutFouling(s.value, known.fouling, s.at);
		return value - stretch.lineAt(value, s.at);
	}

	/**
	 * How far two probes that met are apart today, as known by what had happened until then: the error of the first less that of the
	 * second at a value, in its unit or as a share for EC; null where they never met.
	 */
	apart(first: string, second: string, at: number, value: number): Deviation | null {
		const component = this.componentOf.get(first);
		if (!component || component !== this.componentOf.get(second)) return null;
		const [a, b] = [component.codes.indexOf(first), component.codes.indexOf(second)];
		const { mean, cov } = component.causal.stateAt(at);
		const n = mean.length;
		const lineOf = (code: string) => stretchAt(this.known.get(code)!.stretches, at).knownAt(value);
		const line = lineOf(first) - lineOf(second);
		return {
			mean: (this.quantity === 'ph' ? line : line / value) + mean[a]! - mean[b]!,
			variance: Math.max(cov[a * n + a]! + cov[b * n + b]! - 2 * cov[a * n + b]!, 0),
		};
	}

	/** The errors of one probe; null for one that is not of the site. */
	of(code: string): ProbeErrors | null {
		const known = this.known.get(code);
		if (!known) return null;
		const component = this.componentOf.get(code)!;
		const place = component.codes.indexOf(code);
		const last = known.stretches.at(-1)!;
		return {
			drift: known.drift,
			stretches: known.stretches,
			fouling: known.fouling,
			deviationAt: (at) => {
				const stretch = stretchAt(known.stretches, at);
				if (stretch === last) return component.causal.forward(place, at);
				const { errors, place: p } = this.window(known, stretch);
				return errors.smooth(p, at);
			},
			pairsIn: (stretch) => {
				const errors = stretch === last ? component.causal : this.window(known, stretch).errors;
				const weights = new Map<number, number>();
				for (const p of errors.pairs()) weights.set(p.id, p.weight);
				return within(component.pairs, (p) => p.pair.at, stretch.from, stretch.to).flatMap(({ pair, id }) => {
					const own = pair.a.probe === code ? pair.a : pair.b.probe === code ? pair.b : null;
					if (!own) return [];
					const other = own === pair.a ? pair.b : pair.a;
					return [
						{
							id,
							at: pair.at,
							other: other.probe,
							reading: own.id,
							value: own.value,
							otherValue: other.value,
							weight: weights.get(id) ?? 0,
						},
					];
				});
			},
		};
	}
}

/** Mean of what a probe showed in its pairs of a stretch. */
function usualValue(pairs: Component['pairs'], code: string, stretch: Stretch): number | null {
	let sum = 0;
	let n = 0;
	for (const { pair } of within(pairs, (p) => p.pair.at, stretch.from, stretch.to)) {
		if (pair.a.probe === code) sum += pair.a.value;
		else if (pair.b.probe === code) sum += pair.b.value;
		else continue;
		n++;
	}
	return n > 0 ? sum / n : null;
}

/** Those of a list, ascending in time, from a time on and before another. */
function within<T>(list: readonly T[], at: (x: T) => number, from: number, to: number): T[] {
	const first = (limit: number) => {
		let low = 0;
		let high = list.length;
		while (low < high) {
			const middle = (low + high) >> 1;
			if (at(list[middle]!) < limit) low = middle + 1;
			else high = middle;
		}
		return low;
	};
	return list.slice(first(from), first(to));
}
