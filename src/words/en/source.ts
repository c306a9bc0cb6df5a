import type { SchoolWhy } from '@/core/water/advice';
import type { Consequence } from '@/core/water/depends';
import { IONS, TRACES } from '@/core/water/ions';
import type { LineProblem, ReportText } from '@/core/water/report/read';
import type { RunRule } from '@/core/water/source-chart';

/** What a point of a control chart broke. */
export const RUN_RULE_WORDS: Record<RunRule, string> = {
	'beyond-limits': 'beyond the limits',
	'two-of-three': 'two of three beyond two thirds of the limits',
	'four-of-five': 'four of five beyond one third of the limits',
	'nine-one-side': 'nine in a row on one side of the mean',
	'six-trending': 'six in a row rising or falling',
};

const ofTarget = (used: number | null): string =>
	used === null ? '' : ` It already uses ${Math.round(100 * used)} % of the target EC.`;

/** Why a school fits a water, or does not. */
export function schoolWords(why: SchoolWhy): string {
	switch (why.code) {
		case 'hardly-anything':
			return 'Hardly anything in it: a complete feed that brings its own calcium and magnesium.';
		case 'holds-too-much':
			return 'It holds too much for a feed made for pure water: calcium would be doubled.';
		case 'hardness-not-known':
			return 'Its hardness is not known; send a sample to a laboratory before choosing the feed.';
		case 'too-soft':
			return 'Too soft: such a feed counts on calcium that is not there.';
		case 'salt-builds-up':
			return 'Its sodium or chloride would build up to harm.';
		case 'brings-calcium':
			return `Its hardness (${Math.round(why.hardnessMgLCaco3)} mg/L CaCO3) takes the place of part of the calcium.${ofTarget(why.used)}${why.muchAlkalinity ? ' So much alkalinity wants much acid.' : ''}`;
		case 'is-blended-with':
			return 'It is what others are blended with.';
		case 'brings-down':
			return `Rain or RO water beside it brings down what is too much.${ofTarget(why.used)}`;
		case 'saves-acid':
			return 'Not needed by its numbers; it would only save acid.';
	}
}

const LINE_WORDS: Record<LineProblem['code'], (text: string) => string> = {
	'not-a-value': (text) => `“${text}” is not “name value unit”, such as “Ca 80 mg/L”.`,
	'below-nothing': (text) => `${text} is less than nothing.`,
	'no-unit-of-ec': (text) => `“${text}” is no unit of conductivity: µS/cm, mS/cm or dS/m.`,
	'no-such-ion': (text) => `“${text}” is nothing that is kept here: the line is left out.`,
	'no-unit-of-an-ion': (text) => `“${text.trim()}” is no unit of it: mg/L, µg/L, meq/L, mmol/L, or degrees.`,
	'no-such-form': (text) => `It is not given “as ${text}” anywhere: as what is it meant?`,
	'ambiguous-number': (text) =>
		`“${text}” may be ${text.replace(',', '')} or ${text.replace(',', '.')}: write it without a comma.`,
	'given-twice': (text) =>
		`Two lines say different things of the same: ${text}. Leave out the one that is wrong; until then neither counts.`,
	'hardness-differs': (text) =>
		`Its calcium and magnesium make another hardness: ${text}. Is one of them in another unit?`,
};
/** What is wrong with a line of a laboratory report. */
export const lineWords = (p: LineProblem): string => LINE_WORDS[p.code](p.text);

const WHOLES = {
	ec: ['EC', 'µS/cm'],
	ph: ['pH', ''],
	alkalinity: ['alkalinity', 'mg/L CaCO3'],
	hardness: ['hardness', 'mg/L CaCO3'],
	tds: ['dissolved solids', 'mg/L'],
	temperature: ['temperature', '°C'],
} as const;
/** What a line of a report was understood as: "nitrate nitrogen 10 mg/L". */
export function understoodWords({ key, value, below }: ReportText['understood'][number]): string {
	const [name, unit] = Object.hasOwn(WHOLES, key)
		? WHOLES[key as keyof typeof WHOLES]
		: [({ ...IONS, ...TRACES } as Record<string, { name: string }>)[key]!.name, 'mg/L'];
	return below ? `${name}: too little to find` : `${name} ${Number(value.toPrecision(3))} ${unit}`.trim();
}

const mS = (usCm: number): string => (usCm / 1000).toFixed(2);

/** What a shift of a source means for what hangs on it, to follow its name and a colon. */
export function consequenceWords(c: Consequence): string {
	switch (c.code) {
		case 'over-target':
			return `the water alone is over its target of ${mS(c.targetEcUsCm)}: it wants another water or a blend.`;
		case 'feed-changes':
			return `${c.afterPerL.toFixed(2)} ${c.unit}/L${c.of ? ` of ${c.of}` : ''} instead of ${c.beforePerL.toFixed(2)} for the same ${mS(c.targetEcUsCm)}; the next batch is planned so.`;
		case 'ec-moves':
			return `at ${Math.round(100 * c.strength)} % of the label its EC comes out ${mS(Math.abs(c.byUsCm))} ${c.byUsCm > 0 ? 'higher' : 'lower'}.`;
		case 'planned-anew':
			return 'its feed is planned from the new EC.';
		case 'holds-old-water':
			return 'what is in it was mixed with the water of before.';
		case 'learned-before':
			return `${c.doses} ${c.doses === 1 ? 'dose was' : 'doses were'} learned with the water of before; nothing is concluded from them now.`;
		case 'runs-on':
			return 'it runs on to these: look at their next readings.';
	}
}
