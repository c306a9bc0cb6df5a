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
