import { countWhile } from '../../series/search';
import {
	innovation,
	predictState,
	type Sight,
	type StateEstimate,
	smoothStates,
	startState,
	type Transition,
	updateState,
} from '../../stats/kalman';
import { afterVisit, consistent, FAR, type Happening, HUBER, MOST_LOOSENED, SUSPECT, same, type Waiting } from './gate';
import { across, type Deviation, deviationOf, gained, type JointModel, sightsOf, transitionTo } from './joint-state';

/** What was learned at one time, of whom, and the state before and after. */
interface Step {
	happening: Happening;
	transition: Transition;
	sights: Sight[];
	predicted: StateEstimate;
	updated: StateEstimate;
	waiting: readonly Waiting[];
	/** Probes that were let loose just before. */
	loosened: readonly number[];
	/** How much of it counted: 1 all, 0 nothing (it waits, or was a slip). */
	weight: number;
	/** Variance gained per millisecond from now on. */
	wander: readonly number[];
}

/**
 * The errors of all probes that met one another, followed together.
 *
 * A state has, for each probe, the deviation of its error from the line that its calibrations draw, and the slope of that along the
 * scale. They wander (random walk), are set anew by each visit to standards, let loose by what happened to the probe, seen at the next
 * visit, and each pair shows the difference of two of them (Kalman 1960). Looked at from the end they are smoothed (Rauch, Tung,
 * Striebel 1965).
 *
 * A slip must not bend it: a pair that misses by more than twice what was expected counts the less (Huber 1964), one by far
 * waits. If the next of the same probes misses alike, something happened to a probe that nobody wrote down, and both are
 * let loose since they last agreed; if it agrees, the one that waited was a slip and is forgotten.
 */
export class JointErrors {
	private readonly steps: Step[] = [];
	/** What was known after each step when it was the newest: what is learned later does not change what was known then. */
	private readonly fresh: { state: StateEstimate; weight: number }[] = [];
	/** The step that was asked for last: times mostly come in order. */
	private asked = -1;
	private smoothed: { states: StateEstimate[]; cross: Float64Array[] } | null = null;
	private readonly first: StateEstimate;

	/** @param since where it goes on from, if not from the beginning of the record */
	constructor(
		private readonly model: JointModel,
		private readonly since: { at: number; state: StateEstimate } | null = null,
	) {
		this.first =
			since?.state ??
			startState(new Array<number>(2 * model.start.length).fill(0), [
				...model.start.map((s) => s.level),
				...model.start.map((s) => s.slope),
			]);
	}

	/** One more thing that happened; not before the one taken in last. */
	take(happening: Happening): void {
		this.smoothed = null;
		this.step(happening, []);
		const { updated, weight } = this.steps.at(-1)!;
		this.fresh.push({ state: updated, weight });
	}

	/** Time of what was taken in last; before every time where nothing was. */
	get newest(): number {
		return this.steps.at(-1)?.happening.at ?? this.since?.at ?? Number.NEGATIVE_INFINITY;
	}

	private get n(): number {
		return this.model.start.length;
	}

	private transitionTo(h: Happening, loosened: readonly number[]): Transition {
		const before = this.steps.at(-1);
		const from = before?.happening.at ?? this.since?.at;
		const elapsed = from === undefined ? 0 : Math.max(h.at - from, 0);
		return transitionTo(h, this.model, before?.wander ?? this.model.wander, elapsed, loosened);
	}

	private step(h: Happening, loosened: readonly number[]): void {
		const before = this.steps.at(-1);
		let transition = this.transitionTo(h, loosened);
		let predicted = predictState(before?.updated ?? this.first, transition);
		let sights = sightsOf(h, this.n);
		let waiting = before?.waiting ?? [];
		let weight = 1;
		let free = loosened;
		if (h.kind === 'standard') {
			// A visit is believed: what others said of the probe before does not hold up to it, so it moved since.
			const far = sights.some((sight) => {
				const { miss, variance } = innovation(predicted, sight);
				return Math.abs(miss) > FAR * Math.sqrt(variance);
			});
			if (far && !loosened.includes(h.probe)) {
				free = [...loosened, h.probe];
				transition = this.transitionTo(h, free);
				predicted = predictState(before?.updated ?? this.first, transition);
			}
		} else if (h.kind === 'pair') {
			const sight = sights[0]!;
			const { miss, variance } = innovation(predicted, sight);
			const z = Math.abs(miss) / Math.sqrt(variance);
			const alike = z > HUBER ? waiting.find((w) => consistent(w, h, miss)) : undefined;
			if (alike && this.steps[alike.step]!.loosened.length < MOST_LOOSENED) {
				this.loosen(alike, h);
				return;
			}
			const [a, b] = [h.a.probe, h.b.probe];
			if (z > SUSPECT) waiting = [...waiting, { step: this.steps.length, a, b, miss, noise: h.noise, accused: [a, b] }];
			if (z > FAR) {
				sights = [];
				weight = 0;
			} else if (z > HUBER) {
				weight = HUBER / z;
				// So that the gain of the miss falls to what a miss of twice the expected would have moved.
				sights = [{ ...sight, variance: sight.variance + variance * (z / HUBER - 1) }];
			} else if (waiting.some((w) => same(w, h))) waiting = waiting.filter((w) => !same(w, h));
		}
		if (h.kind === 'set') {
			const visit = before?.happening.kind === 'standard' && before.happening.probe === h.probe ? before : null;
			waiting = afterVisit(waiting, h.probe, visit !== null && !visit.loosened.includes(h.probe));
		}
		this.steps.push({
			happening: h,
			transition,
			sights,
			predicted,
			updated: sights.reduce(updateState, predicted),
			waiting,
			loosened: free,
			weight,
			wander:
				h.kind === 'set'
					? (before?.wander ?? this.model.wander).with(h.probe, h.wander)
					: (before?.wander ?? this.model.wander),
		});
	}

	/** Goes back to the pair that waited, lets loose whom both accuse, and takes everything since in again. */
	private loosen(first: Waiting, h: Happening & { kind: 'pair' }): void {
		const again = this.steps.splice(first.step);
		const both = first.accused.filter((p) => p === h.a.probe || p === h.b.probe);
		for (const [i, s] of again.entries()) this.step(s.happening, i === 0 ? [...s.loosened, ...both] : s.loosened);
		this.step(h, []);
	}

	/** As it was known at a time, by what had happened until then, so far from the usual value. */
	forward(probe: number, at: number, lever: number): Deviation {
		const k = this.indexAt(at);
		return this.grown(k, k < 0 ? this.first : this.fresh[k]!.state, probe, at, lever);
	}

	/** A state of a step, so much later. */
	private grown(k: number, state: StateEstimate, probe: number, at: number, lever: number): Deviation {
		const { mean, variance } = deviationOf(state, probe, lever);
		return { mean, variance: variance + this.gain(k, probe, lever) * this.elapsed(k, at) };
	}

	/** Variance that a probe's deviation gains per millisecond after a step. */
	private gain(k: number, probe: number, lever: number): number {
		return this.wanderFrom(k)[probe]! + lever ** 2 * this.model.slopeWander[probe]!;
	}

	private wanderFrom(k: number): readonly number[] {
		return k < 0 ? this.model.wander : this.steps[k]!.wander;
	}

	/** Milliseconds from a step to a time. */
	private elapsed(k: number, at: number): number {
		const from = k < 0 ? (this.since?.at ?? at) : this.steps[k]!.happening.at;
		return Math.max(at - from, 0);
	}

	/** The whole state as it was known at a time, after everything of that very time. */
	stateAt(at: number): StateEstimate {
		const k = this.indexAt(at);
		const state = k < 0 ? this.first : this.fresh[k]!.state;
		return predictState(state, { q: gained(this.model, this.wanderFrom(k), this.elapsed(k, at)) });
	}

	/** By everything that was taken in, before it and after. */
	smooth(probe: number, at: number, lever: number): Deviation {
		const k = this.indexAt(at);
		if (k === this.steps.length - 1) return this.grown(k, this.steps[k]?.updated ?? this.first, probe, at, lever);
		const { states, cross } = this.backward();
		const next = this.steps[k + 1]!;
		const here = k < 0 ? this.since?.at : this.steps[k]!.happening.at;
		if (k < 0 || here === undefined) return deviationOf(states[0]!, probe, lever);
		const from = deviationOf(states[k]!, probe, lever);
		if (next.happening.kind === 'set' && next.happening.probe === probe)
			return { mean: from.mean, variance: from.variance + this.gain(k, probe, lever) * (at - here) };
		const whole = next.happening.at - here;
		const s = whole > 0 ? (at - here) / whole : 0;
		const to = deviationOf(states[k + 1]!, probe, lever);
		const added = across(next.transition.q!, this.n, probe, probe, lever);
		return {
			mean: (1 - s) * from.mean + s * to.mean,
			variance: Math.max(
				(1 - s) ** 2 * from.variance +
					s ** 2 * to.variance +
					2 * s * (1 - s) * across(cross[k]!, this.n, probe, probe, lever) +
					added * s * (1 - s),
				0,
			),
		};
	}

	private backward() {
		this.smoothed ??= smoothStates(this.steps, {
			predicted: this.steps.map((s) => s.predicted),
			updated: this.steps.map((s) => s.updated),
		});
		return this.smoothed;
	}

	/** Index of the last step at or before a time, −1 for none. */
	private indexAt(at: number): number {
		const k = this.asked;
		if (k < this.steps.length && (k < 0 || this.steps[k]!.happening.at <= at)) {
			const next = this.steps[k + 1];
			if (!next || next.happening.at > at) return k;
		}
		this.asked = countWhile(this.steps, (s) => s.happening.at <= at) - 1;
		return this.asked;
	}

	/** What became of the pairs, in order: how much each counts by now, and when it was the newest. */
	*pairs(): Generator<{ id: number; weight: number; whenNew: number }> {
		for (const [k, { happening: h, weight }] of this.steps.entries())
			if (h.kind === 'pair') yield { id: h.id, weight, whenNew: this.fresh[k]!.weight };
	}

	/** The same up to here, to go on from without changing this one. */
	fork(): JointErrors {
		const other = new JointErrors(this.model, this.since);
		for (const s of this.steps) other.steps.push(s);
		for (const f of this.fresh) other.fresh.push(f);
		return other;
	}
}
