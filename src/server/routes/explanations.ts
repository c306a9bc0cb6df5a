import { explanations as resource } from '@/contract/explanations';
import { explanationsCsv } from '@/service/answers-csv';
import { explanationsOf } from '@/service/explanations';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const explanations = handle(resource, {
	'GET /explanations': async ({ query, db, site, now, request }) => {
		const found = await explanationsOf(db, await site(), query.station, query, now);
		if (wantsCsv(request)) return csvResponse(explanationsCsv(found), 'explanations.csv');
		return found;
	},
});
