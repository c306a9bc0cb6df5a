import { within } from '../../series/search';
import { JUMP } from '../drift';
import { type Acquainted, acquainted, usualValue } from './acquainted';
import { type FoulingSpan, foulingAt } from './fouling';
import type { Happening } from './gate';
import { beginning, lineMet, metBy, visitsOf } from './happenings';
import { JointErrors } from './joint';
import { across, type Deviation, deviationOf, type JointModel } from './joint-state';
import type { Pair, Sighting } from './pairs';
import type { ProbeErrors, ProbeOfSite } from './probe-errors';
import { leverOf, slopeWander, unknownSlope } from './slope';
import { bridgeWander, type Stretch, stretchAt, stretchesOf, wander } from './stretch';

interface Known {
	probe: ProbeOfSite;
	stretches: Stretch[];
	fouling: FoulingSpan[];
	/** Windows worked out so far, by the beginning of the stretch. */
	windows: Map<number, { errors: JointErrors; place: number }>;
}
interface Component extends Acquainted {
	model: JointModel;
	causal: JointErrors;
	happenings: Happening[];
}

const byTime = (a: Happening, b: Happening) => a.at - b.at || ORDER[a.kind] - ORDER[b.kind];
/** A reading of the very time of a visit was taken after it. */
const ORDER = { standard: 0, set: 1, pair: 2 } as const;

/**
 * The errors of all probes of a site in one quantity: calibrations of each, and every pair of readings of one water.
 *
 * What a reading was worth is worked out at the visit that ends its stretch, from everything that had happened until then; after the
 * last visit it is what was known when it was taken. So nothing that is learned later of another probe moves what was settled.
 */
export class SiteErrors {
	private readonly pairs: Pair[];
	private readonly known = new Map<string, Known>();
	private readonly componentOf = new Map<string, Component>();

	/** @param pairs ascending in time; of probes that are not listed, none */
	constructor(
		private readonly quantity: 'ph' | 'ec',
		probes: readonly ProbeOfSite[],
		pairs: readonly Pair[],
	) {
		this.pairs = [...pairs];
		for (const probe of probes) {
			const cut = stretchesOf(quantity, probe.calibrations, probe.jumps);
			this.known.set(probe.code, { probe, ...cut, windows: new Map() });
		}
		for (const component of this.components())
			for (const code of component.codes) this.componentOf.set(code, component);
	}

	/**
	 * Takes in pairs that come after all that is known.
	 * @returns false where they do not: then everything has to be followed again from the beginning
	 */
	add(pairs: readonly Pair[]): boolean {
		for (const pair of pairs) {
			const component = this.componentOf.get(pair.a.probe);
			if (!component) continue;
			if (component !== this.componentOf.get(pair.b.probe) || pair.at < component.causal.newest) return false;
			const id = this.pairs.push(pair) - 1;
			component.pairs.push({ pair, id });
			const h = this.met(pair, id, component.codes, (s) => this.asKnown(s));
			if (!h) continue;
			component.happenings.push(h);
			component.causal.take(h);
			for (const code of component.codes) this.forgetWindows(this.known.get(code)!, pair.at);
		}
		return true;
	}

	/** What ends after a time is to be looked at anew. */
	private forgetWindows({ stretches, windows }: Known, at: number): void {
		for (const from of windows.keys()) if (stretchAt(stretches, from).to > at) windows.delete(from);
	}

	/** The same, to go on from without changing this one. */
	fork(): SiteErrors {
		const other = new SiteErrors(this.quantity, [], []);
		other.pairs.push(...this.pairs);
		for (const [code, known] of this.known) other.known.set(code, { ...known, windows: new Map(known.windows) });
		for (const component of new Set(this.componentOf.values())) {
			const copy: Component = {
				...component,
				pairs: [...component.pairs],
				happenings: [...component.happenings],
				causal: component.causal.fork(),
			};
			for (const code of copy.codes) other.componentOf.set(code, copy);
		}
		return other;
	}

	/** Probes that met one another, directly or by others, each with all its pairs. */
	private components(): Component[] {
		return acquainted([...this.known.keys()], this.pairs).map((g) => this.component(g.codes, g.pairs));
	}

	private component(codes: string[], pairs: Component['pairs']): Component {
		const model: JointModel = {
			start: codes.map((c) => this.startVariances(this.known.get(c)!)),
			wander: codes.map((c) => {
				const { stretches, probe } = this.known.get(c)!;
				return probe.kit ? 0 : wander(this.quantity, stretches[0]!.drift);
			}),
			slopeWander: codes.map((c) => (this.known.get(c)!.probe.kit ? 0 : slopeWander(this.quantity))),
			jump: {
				level: this.quantity === 'ph' ? JUMP.ph : JUMP.ec / 100,
				slope: Math.sqrt(unknownSlope(this.quantity)),
			},
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

	private startVariances({ probe, stretches }: Known): JointModel['start'][number] {
		if (probe.kit) return { level: probe.kit.halfStep ** 2 / 3, slope: 0 };
		return { level: stretches[0]!.startVariance, slope: unknownSlope(this.quantity) };
	}

	private visits(code: string, place: number, pairs: Component['pairs']): Happening[] {
		const { probe, stretches } = this.known.get(code)!;
		return probe.kit
			? []
			: visitsOf(this.quantity, place, stretches, pairs.length > 0 ? (s) => usualValue(pairs, code, s) : undefined);
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
		return metBy(this.quantity, pair, id, {
			placeOf: (code) => codes.indexOf(code),
			halfStepOf: (code) => this.known.get(code)!.probe.kit?.halfStep ?? 0,
			corrected,
		});
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
		// How restless it is, is known better by the visit at the end.
		const restless = (stretch.kind === 'closed' ? bridgeWander : wander)(this.quantity, stretch.driftAtEnd);
		if (finite) errors.take(beginning(this.quantity, place, stretch, restless));
		for (const h of within(component.happenings, stretch.from, stretch.to, (x) => x.at)) {
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
		const end = stretch.endVariance === null ? null : lineMet(place, stretch, stretch.endVariance);
		if (end) errors.take(end);
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
		const [a, b] = [component.codes.indexOf(first), component.codes.indexOf(second)] as const;
		const state = component.causal.stateAt(at);
		const lever = leverOf(this.quantity, value);
		const [one, other] = [deviationOf(state, a, lever), deviationOf(state, b, lever)];
		const lineOf = (code: string) => stretchAt(this.known.get(code)!.stretches, at).knownAt(value);
		const line = lineOf(first) - lineOf(second);
		return {
			mean: (this.quantity === 'ph' ? line : line / value) + one.mean - other.mean,
			variance: Math.max(one.variance + other.variance - 2 * across(state.cov, component.codes.length, a, b, lever), 0),
		};
	}

	/** What is unknown of all errors at the usual value at a time, group by group of probes that met: pH², or share² for EC. */
	covariances(at: number): { codes: readonly string[]; cov: Float64Array }[] {
		return [...new Set(this.componentOf.values())].map(({ codes, causal }) => {
			const whole = causal.stateAt(at).cov;
			const n = codes.length;
			return {
				codes,
				cov: Float64Array.from({ length: n * n }, (_, k) => across(whole, n, Math.floor(k / n), k % n, 0)),
			};
		});
	}

	/** The errors of one probe; null for one that is not of the site. */
	of(code: string): ProbeErrors | null {
		const known = this.known.get(code);
		if (!known) return null;
		const component = this.componentOf.get(code)!;
		const place = component.codes.indexOf(code);
		const last = known.stretches.at(-1)!;
		const deviationIn = (stretch: Stretch) => {
			if (stretch === last)
				return (at: number, value: number) => component.causal.forward(place, at, leverOf(this.quantity, value));
			const { errors, place: p } = this.window(known, stretch);
			return (at: number, value: number) => errors.smooth(p, at, leverOf(this.quantity, value));
		};
		return {
			drift: last.driftAtEnd,
			stretches: known.stretches,
			fouling: known.fouling,
			metAny: component.codes.length > 1,
			deviationAt: (at, value) => deviationIn(stretchAt(known.stretches, at))(at, value),
			deviationIn,
			pairsIn: (stretch) => {
				const errors = stretch === last ? component.causal : this.window(known, stretch).errors;
				const weights = new Map([...errors.pairs()].map((p) => [p.id, p]));
				return within(component.pairs, stretch.from, stretch.to, (p) => p.pair.at).flatMap(({ pair, id }) => {
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
							weight: weights.get(id)?.weight ?? 0,
							whenNew: weights.get(id)?.whenNew ?? 0,
						},
					];
				});
			},
		};
	}
}
