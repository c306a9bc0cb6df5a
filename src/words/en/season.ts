/** So many days from today, as people count them. */
export function inDaysWords(days: number): string {
	if (days === 0) return 'today';
	if (days === 1) return 'tomorrow';
	if (days === -1) return 'yesterday';
	return days > 0 ? `in ${days} days` : `${-days} days ago`;
}

/** What changes with the next stage, ranges as they are shown. */
export function changesWords(now: { ec: string; ph: string } | null, next: { ec: string; ph: string }): string {
	if (now === null) return `EC ${next.ec}, pH ${next.ph}`;
	const part = (name: string, a: string, b: string) =>
		a === b ? `${name} stays at ${a}` : `${name} from ${a} to ${b}`;
	return `${part('EC', now.ec, next.ec)}; ${part('pH', now.ph, next.ph)}`;
}

export const EASING_WORDS =
	'Some growers give water alone before harvest, others hold that it only costs growth: trials differ. It is yours to choose.';
export const OVERTAKEN_WORDS = 'This plan has gone on meanwhile. What you typed stands here and is not kept.';
export const PRESET_WORDS =
	'Lengths are habits and ranges those of common extension leaflets, from memory: a place to start from. Change what you know better.';
