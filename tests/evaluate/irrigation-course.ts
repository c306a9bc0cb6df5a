import { adviseIrrigation, type NextStep, type TakenStep } from '@/core/rootzone/advice';
import { type DrainFound, type DrainSample, judgeDrains } from '@/core/rootzone/drains';
import { runVolumes } from '@/core/rootzone/watering';
import { type Random, seeded } from '@/sim/random';
import {
	type BagWorld,
	builtUp,
	DRIPPER_ML_MIN,
	DRIPPERS_A_BAG,
	dayPasses,
	drySince,
	flush,
	type LookedAt,
	lookAt,
	trueDrainRise,
	trueRise,
} from './worlds/bags';

/** What came of following the advice in one row of bags. */
export interface Course {
	steps: string[];
	/** The drain, read without error, came under the limit within five steps. */
	mended: boolean;
	/** What the bags hold, which no drain shows, was within the limit that calls for acting two weeks later. */
	inside: boolean;
	/** A bag went dry that would have stayed wet. */
	dry: boolean;
	/** Whether each expectation held what was read, and how wide it was. */
	held: boolean[];
	said: string[];
}

const DAY = 86_400_000;
const LIMITS = { watchUsCm: 500, actUsCm: 1000 };
const WATERING = { drippers: 12 * DRIPPERS_A_BAG, bags: 12, dripperMlMin: DRIPPER_ML_MIN };
const MOST_DAYS = 70;

/**
 * Looked at every second day, or when the advice says; each step carried out as people do, sometimes not at once, a flush half. The
 * weather is the same whatever is done, so that a bag counts as dried by the advice only where it stays wet when nothing is changed.
 */
export function follow(seed: number, misread: (look: LookedAt) => LookedAt = (x) => x): Course {
	const [c, people] = [seeded(seed * 7919 + 13), seeded(seed * 104_729 + 7)];
	const w = builtUp(c);
	const left = structuredClone(w) as BagWorld;
	const untouched = seeded(seed * 31 + 1);
	const weather = seeded(seed * 31 + 1);
	const pass = (watched?: () => void) => {
		dayPasses(w, weather, watched);
		dayPasses(left, untouched);
		const dry = drySince(left);
		return drySince(w).filter((i) => !dry.includes(i));
	};
	for (let d = 0; d < 3; d++) pass();
	const course: Course = { steps: [], mended: false, inside: false, dry: false, held: [], said: [] };
	const samples: DrainSample[] = [];
	const found: DrainFound[] = [];
	const taken: TakenStep[] = [];
	let open: NextStep | null = null;
	const heldKnown = people.chance(0.5)
		? w.bags.reduce((s, b) => s + b.capacityL, 0) * people.between(0.85, 1.15)
		: null;
	for (let day = 0; day < MOST_DAYS; day++) {
		const looks = day % 2 === 0 || people.chance(0.5);
		const now = day * DAY;
		const dried = pass(looks ? () => samples.push(sampleOf(now, w.minutes, misread(lookAt(w, people)))) : undefined);
		if (dried.length > 0 && taken.length > 0) course.dry = true;
		if (!looks) continue;
		// Each is judged beside the one before it alone.
		found.push(judgeDrains(samples.slice(-2), LIMITS).at(-1)!);
		if (open && now >= open.lookAt) {
			const read = found.at(-1)!.drain.value;
			const e = open.expect.drainUsCm;
			if (e) course.held.push(read >= e.low && read <= e.high);
			open = null;
		}
		if (taken.length > 0 && trueDrainRise(w) <= LIMITS.watchUsCm && found.at(-1)!.ecDeltaUsCm <= LIMITS.watchUsCm) {
			course.mended = true;
			for (let d = 0; d < 14; d++) if (pass().length > 0) course.dry = true;
			course.inside = trueRise(w) <= LIMITS.actUsCm;
			return course;
		}
		const advice = adviseIrrigation({
			now,
			samples: found,
			schedule: { runsADay: w.runs, minutes: w.minutes, bags: 12, heldL: heldKnown },
			taken,
			limits: LIMITS,
			drainPct: [15, 30],
			leastFeedUsCm: w.leastFeedUsCm,
		});
		course.said.push(
			`${day} ${advice.kind} ${'missing' in advice ? advice.missing : ''} ${found.at(-1)!.ecDeltaUsCm.toFixed(0)}/${trueDrainRise(w).toFixed(0)}`,
		);
		if (!('expect' in advice)) continue;
		if (taken.length >= 5) return course;
		if (people.chance(0.15)) continue;
		taken.push({ at: now, kind: advice.kind, runsBefore: w.runs });
		course.steps.push(advice.kind);
		open = advice;
		carryOut(w, advice, people);
	}
	return course;
}

function carryOut(w: BagWorld, s: NextStep, c: Random): void {
	if (s.kind === 'flush') {
		flush(w, s.flushL! * c.between(0.7, 1.1), s.feedUsCm);
		return;
	}
	w.runs = s.runsADay;
	w.minutes = s.minutes ?? w.minutes;
	w.feedUsCm = s.feedUsCm * (1 + 0.03 * c.normal());
}

function sampleOf(at: number, minutes: number, look: LookedAt): DrainSample {
	const { applied, drained } = runVolumes(
		{ minutes: null, appliedL: null, appliedCups: look.cups, drainedL: null, drainedCups: look.trays },
		WATERING,
	);
	const reading = (value: number) => ({ id: 1, at, value, u: 0.02 * value, instrument: 'plum' });
	return {
		at,
		feed: reading(look.feedUsCm),
		drain: reading(look.drainUsCm),
		feedPh: null,
		drainPh: null,
		run: applied && drained ? { at, applied, drained, minutes, firstDrainMin: look.firstDrainMin } : null,
	};
}
