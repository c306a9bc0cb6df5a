import type { Missing, StepKind } from '@/core/rootzone/advice';

/** What a step is called. */
export const STEP_WORDS: Record<StepKind, string> = {
	'more-runs': 'Water more often',
	'longer-runs': 'Let each run last longer',
	'weaker-feed': 'Feed weaker',
	flush: 'Flush',
	'fewer-runs': 'Water less often',
};

/** Why a step comes now, by the order of the trade. */
export const STEP_WHY: Record<StepKind, string> = {
	'more-runs':
		'Too little runs off to carry the salt out. More often comes first: longer runs of a dry bag go past the roots.',
	'longer-runs': 'Enough runs, but none that soaks all of it: one to two minutes of drain are wanted.',
	'weaker-feed': 'Enough runs off and the drain stays strong: now the feed.',
	flush: 'More water and a weaker feed came first: what is in there has to go out at once.',
	'fewer-runs':
		'Twice far more ran off than is wanted, and early in the run. Lift a bag before and after: it must stay heavy.',
};

/** What is to be measured before anything can be said. */
export const MISSING_WORDS: Record<Missing, string> = {
	'a-drain': 'Read EC of drain and feed once: until then nothing can be advised.',
	'a-newer-drain': 'Read the drain once more: the last one is too old, or from before the last step.',
	volumes:
		'Catch one run: cups under some drippers, trays under some bags. Without them nobody knows what is missing, water or feed.',
	'runs-a-day': 'Say in Setup how often it runs: then the next step can be reckoned.',
	'a-second-look':
		'What was caught does not agree with the looks before: catch one more run before anything is changed.',
};
