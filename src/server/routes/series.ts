import { series as resource } from '@/contract/series';
import { trendsCsv } from '@/service/answers-csv';
import { shownPoint } from '@/service/reading-shown';
import { Refusal } from '@/service/refusal';
import { trendsOf } from '@/service/trends';
import { stationSeries } from '@/store/series';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const series = handle(resource, {
	'GET /trends': async ({ query, db, site, now, request }) => {
		const found = { trends: await trendsOf(db, await site(), query.station, query, now) };
		return wantsCsv(request) ? csvResponse(trendsCsv(query.station, found), 'trends.csv') : found;
	},
	'GET /stations/:code/series': async ({ params, query, db, site }) => {
		const context = await site();
		if (!context.stations.some((s) => s.code === params.code))
			throw new Refusal('no-such-station', [{ path: 'code', message: 'There is no such station.' }]);
		const { quantity, from, to, points = 2000 } = query;
		const rows = await stationSeries(db, context.site.id, params.code, quantity, from, to, points);
		return { points: rows.map(shownPoint) };
	},
});
