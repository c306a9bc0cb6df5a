import { MG_L_CACO3_PER_MEQ } from '@/core/chem/constants';
import { type Cause, type Evidence, type Explained, isSure } from '@/core/explain/explain';

/** What may have moved a water: what it is called, how it works, and what would settle whether it did. */
export const CAUSE_WORDS: Record<Cause, { name: string; how: string; settle: string }> = {
	probe: {
		name: 'the pen strays',
		how: 'What a pen shows wanders between calibrations, and takes every reading along.',
		settle: 'Dip it in a fresh buffer or standard now; or dip a second pen beside it today and in a few days.',
	},
	temperature: {
		name: 'the temperature of the water',
		how: 'A pen that does not allow for temperature shows about 2 % more EC for each °C.',
		settle: 'Write down the temperature beside each EC, or say in Setup that the pen allows for it, if it does.',
	},
	feed_wrong: {
		name: 'a feed that was mixed stronger or weaker',
		how: 'EC stepped where something was poured in, and not to where feeds usually bring it.',
		settle: 'Read EC of the mixed feed before it goes in, with nothing else added, and look what was measured out.',
	},
	alkaline_water: {
		name: 'alkaline water that is poured in',
		how: 'Each top-up brings alkalinity, which lifts pH as its carbon dioxide leaves.',
		settle: 'Read pH an hour before a top-up and a day after it; test the alkalinity of the water.',
	},
	degassing: {
		name: 'carbon dioxide that leaves after acid',
		how: 'Acid turns alkalinity into carbon dioxide. As that leaves, by an air stone most of all, pH climbs back.',
		settle: 'Read pH right after acid is mixed in, after an hour and after a day, with nothing else added.',
	},
	diluted: {
		name: 'more water than is drunk',
		how: 'What goes through or is poured in carries salts away or thins them.',
		settle: 'Measure what runs off of a run, or write down the litres of each top-up beside the level.',
	},
	salts: {
		name: 'salts that stay behind',
		how: 'The plants drink more than they eat, and what is left grows stronger.',
		settle: 'Read EC with the level over some days without pouring in; of bags, measure how much runs off.',
	},
	hungry: {
		name: 'plants that eat more than they drink',
		how: 'They take salts faster than water, and what is left grows weaker.',
		settle: 'Read EC with the level over some days without pouring in.',
	},
	nitrate: {
		name: 'nitrate that the plants take up',
		how: 'For most of the nitrate they take, roots give off base: pH rises as they feed. That is normal.',
		settle: 'Watch whether it rises by day and with growth; a little ammonium in the feed slows it.',
	},
	ammonium: {
		name: 'ammonium in the feed',
		how: 'For ammonium that they take, roots give off acid, and so do the microbes that use it.',
		settle: 'Look at the label for ammonium; two weeks with a feed that has less show it.',
	},
	roots: {
		name: 'roots that decay',
		how: 'pH falls while EC stands still: roots that rot take up little and give off acid.',
		settle:
			'Look at the roots: brown, soft or smelling ones say more than any number. Read oxygen and temperature. What it is, an adviser says.',
	},
};

/** How likely, in words: no more is known than that. */
export const chanceWords = (chance: number): string =>
	chance >= 0.75 ? 'very likely' : chance >= 0.5 ? 'likely' : chance >= 0.2 ? 'possible' : 'unlikely';

const percent = (share: number): string => `${Math.round(Math.abs(share) * 100)} %`;
const signed = (v: number, digits: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`;

/** So much pH, or so many percent of EC. */
export const movedWords = (quantity: 'ph' | 'ec', v: number): string =>
	quantity === 'ph' ? `${Math.abs(v).toFixed(2)} pH` : percent(Math.exp(v) - 1);

/** What there is to explain. */
export function wanderWords(quantity: 'ph' | 'ec', e: Pick<Explained, 'says' | 'way' | 'days' | 'moved'>): string {
	const name = quantity === 'ph' ? 'pH' : 'EC';
	const days = `${Math.round(e.days)} days`;
	if (e.says === 'unknown' || e.moved === null) return '';
	if (e.says === 'steady')
		return `Over these ${days} as a whole ${name} goes nowhere to speak of: there is nothing to explain.`;
	const hardly = isSure(e.moved) ? '' : '; that is hardly more than readings scatter';
	return `${name} went ${e.way} by ${movedWords(quantity, e.moved.value)} in ${days}${quantity === 'ph' ? ', without what acid took off' : ''}${hardly}.`;
}

/** One number that speaks for a cause or against it. @param temp writes °C as the site prefers */
export function evidenceWords(quantity: 'ph' | 'ec', e: Evidence, temp: (c: number) => string): string {
	const v = e.value;
	const beside = quantity === 'ph' ? 'EC' : 'pH';
	const perDay = quantity === 'ph' ? `${signed(100 * v, 1)} % a day` : `${signed(v, 3)} a day`;
	switch (e.says) {
		case 'moved':
			return Math.abs(v) < (quantity === 'ph' ? 0.03 : 0.01)
				? 'nothing of it shows there'
				: `${e.weight < 0 ? 'only ' : ''}${v < 0 ? '−' : '+'}${movedWords(quantity, v)} would be its doing`;
		case 'strays':
			return `by calibrations and second pens it strays by ${quantity === 'ph' ? `${signed(v, 3)} pH` : `${signed(100 * v, 2)} %`} a day`;
		case 'not-adjusted':
			return `nothing was held against it for ${Math.round(v)} days`;
		case 'ammonium-share':
			return `${percent(v)} of the nitrogen fed is ammonium`;
		case 'other-falls':
			return `${beside} falls meanwhile (${perDay})`;
		case 'other-rises':
			return `${beside} rises meanwhile (${perDay})`;
		case 'other-steady':
			return `${beside} stands still meanwhile (${perDay})`;
		case 'alkalinity':
			return `the water holds ${Math.round(v * MG_L_CACO3_PER_MEQ)} mg/L of alkalinity as CaCO3`;
		case 'brings':
			return `what was poured in would account for ${percent(Math.min(v, 9.99))} of it`;
		case 'rebounds':
			return v === 0 ? 'no dose of acid was swallowed' : `${percent(v)} of the doses of acid left pH where it was`;
		case 'temperature':
			return `the water stands at ${temp(v)}`;
		case 'oxygen':
			return `${v.toFixed(1)} mg/L of oxygen`;
		case 'drinks':
			return `in the second half they drank ${percent(v)} of what they drank in the first`;
		case 'began':
			return v > 0.8
				? 'it has been so from the beginning'
				: v < 0.4
					? 'it began on the way'
					: 'it has grown on the way';
		case 'share':
			return `${percent(v)} of what was given ran off`;
		case 'over-feed':
			return `the drain is ${v.toFixed(2)} times as strong as the feed`;
		case 'step':
			return `it stepped by ${v < 0 ? '−' : '+'}${movedWords('ec', v)} at once`;
		case 'feed-changed':
			return `by what its feed did alone the drain would have gone ${v < 0 ? '−' : '+'}${movedWords('ec', v)}`;
		case 'not-compensated':
			return 'the pen does not allow for temperature';
		case 'between':
			return `between what is poured in it goes ${signed(100 * v, 1)} % a day`;
	}
}

/** Where to begin, whatever is likeliest. */
export const BEGIN_WORDS = 'First the reading, then the pen, then the water, then the plant.';
export const doubtfulWords = (n: number): string =>
	n === 1
		? 'One reading of this time is doubtful: look at it first.'
		: `${n} readings of this time are doubtful: look at them first.`;
