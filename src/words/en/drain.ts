/** What a drain sample comes to, in a word and in a sentence. */
export type DrainVerdictWord = 'good' | 'watch' | 'act' | 'flushing' | 'check';

export const DRAIN_WORDS: Record<DrainVerdictWord, readonly [word: string, sentence: string]> = {
	good: ['in order', 'The drain stands near enough to the feed.'],
	watch: ['watch', 'Salt is building up in the root zone: nothing is urgent, but begin with the first step.'],
	act: ['act', 'Salt has built up in the root zone: take the first step today.'],
	flushing: ['flushing', 'What had built up is leaving.'],
	check: ['measure again', 'The figures cannot all be right.'],
};

/** Clearly more ran off than was given. */
export const moreDrainedWords = ({
	applied,
	drained,
}: {
	applied: { litres: number };
	drained: { litres: number };
}): string =>
	`${drained.litres.toPrecision(3)} L ran off of ${applied.litres.toPrecision(3)} L given: read both again, and look how many drippers and bags the system has.`;
