import type { Difference } from '@/core/mix/compare-batches';

const percent = ({ earlier, later }: Difference): string => {
	const share = (later - earlier) / earlier;
	return `${share > 0 ? '+' : '−'}${Math.abs(100 * share).toFixed(0)} %`;
};

/**
 * What was different in a batch from the one like it before, with what it may mean.
 * @param ec writes an EC in µS/cm with its unit
 */
export function differenceWords(d: Difference, ec: (usCm: number) => string): string {
	switch (d.of) {
		case 'water':
			return `The water has EC ${ec(d.later)} instead of ${ec(d.earlier)}.`;
		case 'feed':
			return `${percent(d)} feed for each litre (${d.later.toFixed(2)} instead of ${d.earlier.toFixed(2)}).`;
		case 'gain':
			return `The feed raised EC by ${percent(d)} as much for each mL/L: ${d.later > d.earlier ? 'less water than noted, or a stronger bottle' : 'more water than noted, a weaker bottle, or not yet mixed'}?`;
		case 'ec':
			return `EC came to ${ec(d.later)} instead of ${ec(d.earlier)}.`;
		case 'dosed':
			return `${percent(d)} pH product for each litre: the water’s alkalinity or the bottle has changed.`;
		case 'ph':
			return `pH came to ${d.later.toFixed(2)} instead of ${d.earlier.toFixed(2)}.`;
	}
}
