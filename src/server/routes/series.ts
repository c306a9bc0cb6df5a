import { series as resource } from '@/contract/series';
import { seriesCsv, trendsCsv } from '@/service/answers-csv';
import { seriesOf } from '@/service/sensors/series';
import { trendsOf } from '@/service/trends';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const series = handle(resource, {
	'GET /trends': async ({ query, db, site, now, request }) => {
		const found = { trends: await trendsOf(db, await site(), query.station, query, now) };
		return wantsCsv(request) ? csvResponse(trendsCsv(query.station, found), 'trends.csv') : found;
	},
	'GET /stations/:code/series': async ({ params, query, db, site, request }) => {
		const found = await seriesOf(db, await site(), { ...query, station: params.code });
		return wantsCsv(request) ? csvResponse(seriesCsv(params.code, query.quantity, found), 'series.csv') : found;
	},
});
