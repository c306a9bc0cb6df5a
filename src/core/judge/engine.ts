import { QUANTITY, type SeriesQuantity, seriesQuantity } from '../quantity';
import type { Reading, Verdict, WaterEvent } from '../reading/model';
import { permits } from '../trust/trust';
import { agreeingBefore, agreesWithin } from './agreeing';
import { driftHere, neighbours, remember, TOGETHER_MS } from './beside';
import type { Subject } from './checks/check';
import { instrumentThen, type JudgeContext, stationThen } from './context';
import { combinedEffect, NO_EFFECT } from './event-effect';
import { eventsBetween } from './events-between';
import { believe, doubt, type Prediction, predict, score } from './history';
import { type EngineSnapshot, Memory, seriesInstrument } from './memory';
import { newLevelFinding } from './new-level';
import { isCoarse } from './rests';
import { withoutDrift } from './second-instrument';
import { atRest, followTrace, gapBefore, isContinuous, restsTogether } from './trace';
import { readingUncertainty } from './uncertainty';
import { verdictOf } from './verdict';
import { USUAL_WAITS } from './waits';
import { fromWorking, toWorking, uncertaintyToWorking } from './working-scale';

/** How long a tank takes to mix after something was added (common practice: within the hour). */
const MIXING_MS = 60 * 60_000;
const STIRS = new Set([
	'water_added',
	'nutrient_added',
	'acid_added',
	'base_added',
	'solution_changed',
	'sampled',
	'probe_cleaned',
	'probe_out',
	'calibrated',
]);

/** A step of the display, with what conversion to µS/cm takes off. */
const ONE_STEP = 1.01;

/** Fewer readings, less trust in the spread: the limit falls from 6 to 4.5 standard deviations. */
export function limitFor(prediction: Prediction | null): number {
	if (!prediction || prediction.from === 0) return 4;
	return prediction.seen < 4 ? 6 : prediction.seen < 8 ? 5.2 : 4.8;
}

/** A spike is over within this time: so many readings must agree before a sensor's level is new. */
const SPIKE_MS = 30 * 60_000;
const lasting = (usualGapMs: number | null): number =>
	usualGapMs === null ? 6 : Math.min(Math.max(Math.ceil(SPIKE_MS / usualGapMs), 2), 6);
const NOTHING_WRITTEN: Subject['written'] = [];

/** What the same instrument showed of the same quantity further up in a sample; null where it did not. */
function twinOf(reading: Reading, before: readonly Subject[]): number | null {
	for (let i = before.length - 1; i >= 0; i--) {
		const { station, quantity, instrument, value } = before[i]!.reading;
		if (quantity === reading.quantity && instrument === reading.instrument && station === reading.station) return value;
	}
	return null;
}

/**
 * Judges samples in the order they are given and learns from those it believes. One engine serves a typed entry, an
 * import and the headless checker. Its memory is a fixed number of readings per station, quantity and instrument.
 */
export class Engine {
	private readonly tolerance: number;
	/** A check has asked what other stations show. */
	askedElsewhere = false;

	constructor(
		private readonly site: JudgeContext,
		private readonly now: () => number,
		readonly memory = new Memory(),
	) {
		this.tolerance = site.tolerance ?? 1;
	}

	/** Events are given before the samples that follow them in time; later ones wait for theirs. */
	note(event: WaterEvent): void {
		this.memory.note(event);
	}

	/** What this station should show at a time. */
	expect(stationCode: string, quantity: SeriesQuantity, at: number): Prediction | null {
		const station = stationThen(this.site, stationCode, at);
		if (station.kind === 'standard') return null;
		const history = this.memory.lookHistory(stationCode, quantity);
		const since = eventsBetween(this.memory.look(stationCode).events, history.lastAt, at);
		const effect = since.length > 0 ? combinedEffect(quantity, since, station, history.responses) : NO_EFFECT;
		return predict(history, at, station, effect);
	}

	/** Judges the readings of one sample without learning from them: what Bench shows while somebody types. */
	judge(sample: readonly Reading[]): Verdict[] {
		const subjects = this.subjects(sample);
		return subjects.map((s) => verdictOf(s));
	}

	/**
	 * Judges a sample and learns from what it believed.
	 * @param decisions what a person decided about each, where somebody did: what was kept is believed whatever the checks
	 *   say, what was given up teaches nothing. The verdict is the same with and without.
	 */
	take(sample: readonly Reading[], decisions: readonly (string | null)[] = []): Verdict[] {
		const subjects = this.subjects(sample);
		return subjects.map((s, i) => {
			const verdict = verdictOf(s);
			const decision = decisions[i] ?? null;
			if (decision === 'keep') this.trust(s);
			else if (permits({ flag: 1, decision }, 'history')) this.learn(s, verdict);
			return verdict;
		});
	}

	private trust(s: Subject): void {
		const { reading } = s;
		// Kept or not, a number that no instrument shows predicts nothing.
		if (reading.value < s.definition.span[0] || reading.value > s.definition.span[1]) return;
		this.trace(s);
		believe(this.memory.history(reading.station, s.quantity), reading.at, s.level, s.prediction);
	}

	/** Goes on from plain data of some stations, so that a browser can judge where the server stopped. */
	recall(snapshot: EngineSnapshot): void {
		for (const [code, kept] of snapshot.stations) this.memory.recall(code, kept);
		for (const [instrument, ec] of snapshot.lastEc) this.memory.lastEc.set(instrument, ec);
		for (const event of snapshot.events) this.note(event);
	}

	private subjects(sample: readonly Reading[]): Subject[] {
		const subjects: (Subject & { mates: Subject[] })[] = [];
		const now = this.now();
		for (const reading of sample) {
			const quantity = seriesQuantity(reading.quantity);
			const own = seriesInstrument(reading.quantity, reading.instrument);
			const trace = this.memory.look(reading.station).traces.get(own);
			const prediction = this.expect(reading.station, quantity, reading.at);
			const drifted = driftHere(this.memory, reading, quantity);
			// A sensor known to have moved away is judged, and learned from, by what it would show if it had not.
			const level = toWorking(
				quantity,
				drifted ? withoutDrift(quantity, reading.value, drifted.offset) : reading.value,
			);
			const instrument = instrumentThen(this.site, reading.instrument, reading.at);
			const { step, u, repeats } = readingUncertainty(reading, instrument);
			const uWorking = uncertaintyToWorking(quantity, reading.value, repeats);
			const limit = this.tolerance * limitFor(prediction);
			let missed = prediction ? score(prediction, level, uWorking) : 0;
			if (Math.abs(missed) > limit && this.isOneStep(reading, quantity, prediction, step))
				missed = Math.sign(missed) * limit;
			subjects.push({
				reading,
				quantity,
				definition: QUANTITY[reading.quantity],
				station: stationThen(this.site, reading.station, reading.at),
				instrument,
				level,
				u,
				uWorking,
				prediction,
				missed,
				limit,
				mates: [],
				elsewhere: (q) => this.elsewhere(reading, q),
				previous: trace ? { at: trace.at, value: trace.value, usualGapMs: trace.gapMs } : null,
				twin: twinOf(reading, subjects) ?? (trace && trace.at === reading.at ? trace.value : null),
				ecHereUsCm: null,
				continuous: instrument?.continuous === true || isContinuous(trace),
				mixing: this.mixing(reading.station, reading.at),
				rests: atRest(trace, reading.at, trace?.value === reading.value, false),
				together: null,
				coarse: trace !== undefined && isCoarse(trace.steps),
				written: trace?.written ?? NOTHING_WRITTEN,
				agreeing: null,
				before: this.memory.lastEc.get(reading.instrument) ?? null,
				gap: gapBefore(trace, reading.at),
				neighbours: neighbours(this.memory, reading, quantity),
				drifted,
				probe:
					(quantity === 'ph' || quantity === 'ec') && reading.instrument !== ''
						? (this.site.probe?.(reading.instrument, quantity, reading.at) ?? null)
						: null,
				waits: this.site.waits ?? USUAL_WAITS,
				zone: this.site.zone ?? 'UTC',
				now,
			});
		}
		for (const s of subjects) {
			if (subjects.length > 1) s.mates = subjects.filter((o) => o !== s);
			s.together = restsTogether(this.memory.look(s.reading.station).traces, s);
			s.agreeing = agreeingBefore(this.memory.lookHistory(s.reading.station, s.quantity), s);
			s.ecHereUsCm = s.quantity === 'ph' ? this.ecHere(s, subjects) : null;
		}
		return subjects;
	}

	/**
	 * The display rounds what is read and has rounded what was: one step from what is expected, or from the reading that was
	 * believed last, is no miss, however alike those before it were.
	 */
	private isOneStep(
		reading: Reading,
		quantity: SeriesQuantity,
		prediction: Prediction | null,
		displayStep: number,
	): boolean {
		if (prediction === null || prediction.from === 0) return false;
		const step = displayStep * ONE_STEP;
		if (Math.abs(reading.value - fromWorking(quantity, prediction.level)) <= step) return true;
		const last = this.memory.lookHistory(reading.station, quantity).levels.at(-1);
		return last !== undefined && Math.abs(reading.value - fromWorking(quantity, last)) <= step;
	}

	private mixing(station: string, at: number): boolean {
		return eventsBetween(this.memory.look(station).events, at - MIXING_MS, at).some((e) => STIRS.has(e.kind));
	}

	private ecHere(s: Subject, sample: readonly Subject[]): number | null {
		const mate = sample.find((m) => m.quantity === 'ec' && Math.abs(m.missed) <= m.limit);
		if (mate) return mate.reading.value;
		const expected = this.expect(s.reading.station, 'ec', s.reading.at);
		return expected && expected.from >= 2 ? fromWorking('ec', expected.level) : null;
	}

	private elsewhere(reading: Reading, quantity: SeriesQuantity): { station: string; prediction: Prediction }[] {
		const result: { station: string; prediction: Prediction }[] = [];
		this.askedElsewhere = true;
		for (const station of this.memory.stationsWith(quantity)) {
			if (station === reading.station) continue;
			const prediction = this.expect(station, quantity, reading.at);
			if (prediction) result.push({ station, prediction });
		}
		return result;
	}

	private trace(s: Subject, jumped = false): void {
		const { reading } = s;
		const { traces } = this.memory.of(reading.station);
		followTrace(traces, seriesInstrument(reading.quantity, reading.instrument), reading, {
			jumped,
			allRest: s.together !== null,
			byHand: !s.continuous,
		});
		if (s.quantity === 'ec' && reading.instrument !== '')
			this.memory.lastEc.set(reading.instrument, { at: reading.at, station: reading.station, ecUsCm: reading.value });
	}

	private isSensor(s: Subject, instrument: string): boolean {
		if (instrumentThen(this.site, instrument, s.reading.at)?.continuous) return true;
		return isContinuous(this.memory.look(s.reading.station).traces.get(seriesInstrument(s.quantity, instrument)));
	}

	private learn(s: Subject, verdict: Verdict): void {
		const cause = verdict.deciding?.cause;
		const judged = { flag: verdict.flag, cause };
		if (!permits(judged, 'sequence')) return;
		this.trace(s, !permits(judged, 'steps'));
		if (!permits(judged, 'compare')) return;
		remember(this.memory, (instrument) => this.isSensor(s, instrument), s);
		const history = this.memory.history(s.reading.station, s.quantity);
		const fits = s.prediction === null || Math.abs(s.missed) <= s.limit;
		const [low, high] = s.definition.span;
		if (s.reading.value < low || s.reading.value > high) return;
		if (fits && permits(judged, 'history')) {
			believe(history, s.reading.at, s.level, s.prediction);
			return;
		}
		if (s.prediction === null || !permits(judged, 'level')) return;
		// A sensor's new level must last; a spike is still a spike.
		const needed = s.continuous
			? lasting(s.previous?.usualGapMs ?? null)
			: verdict.deciding?.suggested == null || cause === 'scale-mismatch'
				? 1
				: 3;
		const tolerance = agreesWithin(s.prediction, s.uWorking);
		const { event } = s.prediction;
		if (!doubt(history, s.reading.at, s.level, tolerance, needed)) return;
		const since = history.times[0]!;
		believe(history, s.reading.at, s.level, null);
		if (!s.continuous || event.kinds.length > 0 || cause !== 'spike') return;
		// Six readings on, it is no spike but a step: said of all of them at once.
		verdict.deciding = newLevelFinding(s, this.movedToo(s, since));
		verdict.flag = 3;
		verdict.findings.unshift(verdict.deciding);
		verdict.since = since;
	}

	/** Whether the conductivity here left its level at the same time. */
	private movedToo(s: Subject, since: number): boolean {
		if (s.quantity === 'ec') return true;
		const ec = this.memory.look(s.reading.station).histories.get('ec');
		if (!ec) return false;
		return (
			(ec.pending !== null && Math.abs(ec.pending.at - since) <= TOGETHER_MS) ||
			(ec.times.length <= 8 && ec.times.length > 0 && Math.abs(ec.times[0]! - since) <= TOGETHER_MS)
		);
	}
}
