import type { Uptake } from '@/core/rootzone/uptake';

/** What the plants do to the tank, and what follows from it. */
export const TAKES_WORDS: Record<Uptake['says'], string> = {
	'takes-more': 'They take more salt than water: EC falls with the level. Top up stronger, or sooner.',
	'takes-less': 'They take more water than salt: EC rises as the level falls. Top up weaker.',
	even: 'As far as it can be told they take salt and water as they stand in the tank: top up at about its own strength.',
	unknown: 'What they take of the salt cannot be told yet: too little was drunk beside what readings are worth.',
};

/** What would have to be known before anything can be told. */
export const UPTAKE_MISSING: Record<'volume' | 'level' | 'ec' | 'additions', string> = {
	volume: 'Say in Setup how many litres it holds.',
	level:
		'Read its level with each EC (a dipstick in mm, with the shape of the tank in Setup, gives litres), or write down how many litres each top-up took to the same mark.',
	ec: 'Read its EC at least twice between two top-ups, the second just before the water is added; or its level beside each EC.',
	additions: 'Log each top-up with its litres: what was drunk is what it took to fill up again.',
};
