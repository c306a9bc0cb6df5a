import type { Treatment } from '@/core/water/treatments';

/** What a treatment is for, and what to mind. */
export const TREATMENT_WORDS: Record<Treatment, string> = {
	softener:
		'Not for plants: it takes the calcium that feeds them and leaves sodium that does not. Draw the water before it, from the garden tap.',
	'reverse osmosis':
		'Everything has to be given back by the feed, calcium and magnesium too. Watch the membrane: it is judged by what it holds back of its own feed.',
	deioniser: 'As pure as water gets, and as dear: the resin is used up by every milligram of salt.',
	'carbon filter':
		'It takes chlorine, chloramine (slowly) and what smells; no salt, no hardness, no alkalinity. Change it in time: an old one breeds what it should hold back.',
	'sediment filter':
		'It holds back sand and rust that clog drippers and foul membranes; what is dissolved goes through.',
	'UV lamp':
		'It kills what lives in the water and changes no number. Before the feed, not after: it breaks the chelates that keep iron dissolved. Never look into it.',
};
