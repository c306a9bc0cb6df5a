import type { Nutrient } from '@/core/crop/availability';
import type { LeafCause, LeafEvidence, Leaves, Sign } from '@/core/crop/leaf';

export const LEAVES_WORDS: Record<Leaves, string> = {
	old: 'old leaves, low on the plant',
	young: 'young leaves, at the tip',
	all: 'all of them',
};
export const SIGN_WORDS: Record<Sign, string> = {
	pale_all_over: 'pale all over',
	pale_between_veins: 'pale between green veins',
	burnt_edges: 'brown edges',
	burnt_tips: 'brown tips',
	spots: 'spots',
	purple: 'red or purple',
	deformed: 'curled, cupped or crippled',
	wilting: 'wilting',
	slow: 'slow, small',
	fruit_end_rot: 'dark rotten end of fruit',
};
const plain = (n: Nutrient): string => n;

/** What it is called, and what to measure or look at next. */
export const LEAF_CAUSE_WORDS: Record<LeafCause, { name: string; next: string }> = {
	ph_high: {
		name: 'a pH that is too high: iron, manganese and phosphorus are out of reach',
		next: 'Read pH with a pen that was dipped in a buffer today, in the tank and in the drain.',
	},
	ph_low: {
		name: 'a pH that is too low: calcium and magnesium are out of reach, metals rise',
		next: 'Read pH with a pen that was dipped in a buffer today, in the tank and in the drain.',
	},
	salts: {
		name: 'too many salts at the roots',
		next: 'Read EC of the drain, or of a pressed sample, beside the feed of the same day.',
	},
	too_weak: { name: 'a feed that is too weak', next: 'Read EC of what comes out of a dripper or stands in the tank.' },
	sodium: {
		name: 'sodium or chloride',
		next: 'Have sodium and chloride tested in the water and in the drain: EC does not tell them from food.',
	},
	roots: {
		name: 'roots that lack air, or rot',
		next: 'Look at the roots: white and firm, or brown and soft? Read oxygen and temperature of the water.',
	},
	cold: { name: 'cold', next: 'Read the temperature of the water in the morning.' },
	...nutrients({
		nitrogen: 'Compare EC with the range, and the label of the feed.',
		phosphorus: 'Read pH and the temperature of the water first: both keep it back.',
		potassium: 'Compare the label of the feed: fruit takes much of it.',
		magnesium: 'Look what the water and the feed bring of it beside calcium and potassium.',
		calcium: 'Look at EC, at wilting at noon and at damp, still air: it goes where water is evaporated.',
		sulfur: 'Compare the label: feeds seldom lack it.',
		iron: 'Read pH first: above 6.5 it is there and cannot be had.',
		manganese: 'Read pH first: above 6.5 it cannot be had, below 5 there is too much.',
		zinc: 'Read pH first, then the label.',
		copper: 'Read pH first, then the label.',
		boron: 'Read pH first, then the label: a little more is a poison.',
		molybdenum: 'Read pH first: below 5.5 it cannot be had.',
	}),
};
function nutrients(next: Record<Nutrient, string>): Record<Nutrient, { name: string; next: string }> {
	return Object.fromEntries(
		Object.entries(next).map(([n, text]) => [
			n,
			{ name: `too little ${plain(n as Nutrient)} in the plant`, next: text },
		]),
	) as Record<Nutrient, { name: string; next: string }>;
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** One fact that speaks for it or against it. @param ec writes µS/cm as the site prefers @param temp writes °C as the site prefers */
export function leafEvidenceWords(
	e: LeafEvidence,
	site: { ec: (usCm: number) => string; temp: (c: number) => string },
): string {
	const v = e.value;
	switch (e.says) {
		case 'signs':
			return e.weight > 0 ? 'it looks like this' : 'it usually looks otherwise';
		case 'leaves':
			return e.weight > 0 ? 'it begins on these leaves' : 'it usually begins on other leaves';
		case 'ph-above':
			return `pH was too high for it in ${percent(v)} of the readings`;
		case 'ph-below':
			return `pH was too low for it in ${percent(v)} of the readings`;
		case 'ph-fits':
			return `pH stood well, about ${v.toFixed(1)}`;
		case 'ec-above':
			return `EC is above the range, ${site.ec(v)}`;
		case 'ec-below':
			return `EC is below the range, ${site.ec(v)}`;
		case 'ec-fits':
			return `EC is not such, ${site.ec(v)}`;
		case 'drain-above':
			return `the drain stands ${site.ec(v)} above the feed`;
		case 'drain-fits':
			return v < 0
				? 'the drain is no stronger than the feed'
				: `the drain stands ${site.ec(v)} above the feed, no more`;
		case 'warm':
			return `the water is ${site.temp(v)}`;
		case 'cold':
			return `the water is only ${site.temp(v)}`;
		case 'no-oxygen':
			return `${v.toFixed(1)} mg/L of oxygen`;
		case 'sodium':
			return `the water brings ${v.toFixed(1)} mmol/L of sodium`;
	}
}

export const LEAF_CAUTION =
	'This ranks what water and feed can do. Disease and pests look alike: isolate what spreads, and have an adviser see it before anything is sprayed.';
