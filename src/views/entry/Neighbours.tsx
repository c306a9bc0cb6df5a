import type { StoredReading } from '@/contract/readings';
import { seriesQuantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { pointsOf } from '../data/points';
import { useAsked } from '../data/queries';
import { NEIGHBOUR_DAYS, NeighbourChart } from './NeighbourChart';

const DAY = 86_400_000;

/** What stands around a reading, and what was poured there: days before and after it. */
export function useNeighbours(r: StoredReading) {
	const at = Date.parse(r.time);
	const span = { from: formatTime(at - NEIGHBOUR_DAYS * DAY), to: formatTime(at + NEIGHBOUR_DAYS * DAY) };
	const series = useAsked('GET /stations/:code/series', {
		params: { code: r.station },
		query: { quantity: seriesQuantity(r.quantity), of: 'hands', ...span },
	});
	const poured = useAsked('GET /events', { query: { station: r.station, order: 'newest', limit: 200, ...span } });
	return { points: pointsOf(series.data), events: poured.data?.events ?? [] };
}

/** A reading among its neighbours in time. */
export function Neighbours({ reading, site }: { reading: StoredReading; site: SiteView }) {
	const { points, events } = useNeighbours(reading);
	return <NeighbourChart reading={reading} points={points} events={events} site={site} />;
}
