/** What a series does, in a sentence; numbers come in as they are shown. */
export function trendWords(
	t: { says: 'rising' | 'falling' | 'steady' | 'unknown'; readings: number; spans: number },
	name: string,
	perDay: { value: string; low: string; high: string } | null,
): string {
	const between = t.spans > 1 ? 'Between what was done to the water ' : '';
	const by = `${t.readings} readings${t.spans > 1 ? ` in ${t.spans} stretches` : ''}`;
	const named = between || name === 'pH' ? name : name.charAt(0).toUpperCase() + name.slice(1);
	if (t.says === 'unknown' || perDay === null)
		return t.readings === 0
			? ''
			: `What ${name} does by itself cannot be told yet: ${t.readings < 2 ? 'too few readings lie' : `only ${by} lie`} between what was done to the water.`;
	if (t.says === 'steady')
		return `${between}${named} goes neither up nor down for sure (${perDay.low} to ${perDay.high} a day; ${by}).`;
	return `${between}${named} ${t.says === 'rising' ? 'rises' : 'falls'} by ${perDay.value} a day (${perDay.low} to ${perDay.high}; ${by}).`;
}

/** Another pace since some day; paces with their signs, as they are shown. */
export const paceWords = (before: string, after: string, day: string): string =>
	`Since ${day} its pace is ${after} a day, before it was ${before}.`;

/** When an end of the range is reached, as a window. @param soon it may be there within the hour */
export const reachesWords = (name: string, limit: string, from: string, to: string, soon: boolean): string => {
	// The pH is named by its value already.
	const what = limit.startsWith('pH') ? limit : `${name} ${limit}`;
	return soon
		? `Comes to ${what} by ${to}, perhaps now, if nothing is done (nine times in ten).`
		: `Comes to ${what} between ${from} and ${to} if nothing is done (nine times in ten).`;
};
