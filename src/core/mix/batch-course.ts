/**
 * Where a batch stands, told from its plan and its log alone, so that it goes on after a reload, on another device, or the
 * next morning. Usual order: parts, EC, pH last. The other school sets the pH of the water first, and has to look again at
 * the end, because feeds pull it down.
 */
export type BatchPhase = 'water-ph' | 'parts' | 'ec' | 'ph' | 'done';
export const BATCH_STEPS = ['filled', 'part', 'ec', 'diluted', 'fed', 'dosed', 'ph', 'next', 'done'] as const;
export type BatchStepKind = (typeof BATCH_STEPS)[number];
export interface CoursePlan {
	/** What is poured, one after the other. */
	pours: readonly unknown[];
	targetEcUsCm: number | null;
	/** Where EC may be, for a batch that has no target: the tank’s own range. */
	ecRangeUsCm?: readonly [number, number] | null | undefined;
	expectedEcUsCm?: number | null | undefined;
	phFirst?: boolean | undefined;
}
export interface CourseStep {
	step: string;
	expected: number | null;
	measured: number | null;
}
export interface BatchCourse {
	phase: BatchPhase;
	/** The pouring that is next, from 0. */
	part: number;
	/** What EC should show at the next reading; null where nobody knows. */
	expectedEcUsCm: number | null;
	/** EC that waits for a correction, or for a word that it may stay so. */
	seenEcUsCm: number | null;
	/** Whether pH has been read since this phase began. */
	phRead: boolean;
}

/** Within this share of the target EC is right: what a two-decimal pen and a dipstick can tell. */
export const CLOSE_EC = 0.03;
/**
 * Whether an EC is as near its target as a pen and a dipstick tell; without a target, whether it is in the range; always, where
 * there is neither.
 * @example ecIsRight(1750, { targetEcUsCm: 1800 }) // true
 */
export const ecIsRight = (
	ecUsCm: number,
	{ targetEcUsCm: target, ecRangeUsCm: range }: Pick<CoursePlan, 'targetEcUsCm' | 'ecRangeUsCm'>,
): boolean =>
	target !== null
		? Math.abs(ecUsCm - target) <= CLOSE_EC * target
		: range == null || (ecUsCm >= range[0] && ecUsCm <= range[1]);

/** What an EC is corrected towards: the target, else the middle of the range. */
export const ecAim = ({ targetEcUsCm, ecRangeUsCm }: Pick<CoursePlan, 'targetEcUsCm' | 'ecRangeUsCm'>): number | null =>
	targetEcUsCm ?? (ecRangeUsCm ? (ecRangeUsCm[0] + ecRangeUsCm[1]) / 2 : null);

/**
 * Where a batch stands and what is next.
 * @example batchCourse({ pours: [{}, {}], targetEcUsCm: 1800 }, [{ step: 'part', expected: null, measured: null }]).phase // 'parts'
 */
export function batchCourse(plan: CoursePlan, log: readonly CourseStep[]): BatchCourse {
	const phases: BatchPhase[] = plan.phFirst ? ['water-ph', 'parts', 'ec', 'ph', 'done'] : ['parts', 'ec', 'ph', 'done'];
	let at = 0;
	const course: BatchCourse = {
		phase: phases[0]!,
		part: 0,
		expectedEcUsCm: plan.expectedEcUsCm ?? null,
		seenEcUsCm: null,
		phRead: false,
	};
	const next = () => {
		at = Math.min(at + 1, phases.length - 1);
		course.phRead = false;
		course.seenEcUsCm = null;
	};
	for (const s of log) {
		const phase = phases[at];
		if (s.step === 'done') at = phases.length - 1;
		else if (s.step === 'next') next();
		else if (s.step === 'part' && phase === 'parts') {
			course.part++;
			if (course.part >= plan.pours.length) next();
		} else if (s.step === 'ec' && phase === 'ec' && s.measured !== null) {
			if (ecIsRight(s.measured, plan)) next();
			else course.seenEcUsCm = s.measured;
		} else if (s.step === 'diluted' || s.step === 'fed') {
			course.seenEcUsCm = null;
			course.expectedEcUsCm = s.expected ?? course.expectedEcUsCm;
		} else if (s.step === 'ph') course.phRead = true;
	}
	return { ...course, phase: phases[at]! };
}

/** What may be done in each phase. A dose and what was read after it belong to the phases of pH. */
const STEPS_OF: Record<BatchPhase, readonly BatchStepKind[]> = {
	'water-ph': ['ph', 'dosed', 'next', 'done'],
	parts: ['filled', 'part', 'next', 'done'],
	ec: ['ec', 'diluted', 'fed', 'next', 'done'],
	ph: ['ph', 'dosed', 'next', 'done'],
	done: [],
};
/**
 * Whether a step follows where a batch stands: a part is poured before EC is read, and what is finished stays so.
 * @example mayFollow('parts', 'ec') // false
 */
export const mayFollow = (phase: BatchPhase, step: BatchStepKind): boolean => STEPS_OF[phase].includes(step);
