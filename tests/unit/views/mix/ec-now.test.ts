import { expect, it } from 'vitest';
import type { Change } from '@/contract/meters';
import { afterNews, type EcNow } from '@/views/mix/ec-now';

/** What another’s hand does to an EC that a step goes by. Common practice, no source: what was poured changes it, and is read again. */
const READ = Date.parse('2026-07-01T08:00:00Z');
const now: EcNow = { ecUsCm: 1200, at: READ, doubted: false, overtaken: false };
const change = (c: Partial<Change>): Change => ({ seq: 1, kind: 'event', station: 'pond', by: '', ...c });

it.each(['nutrient_added', 'water_added', 'solution_changed', 'drained'] as const)(
	'%s after it was read: it is read again; before it: it stands',
	(what) => {
		expect(afterNews(now, change({ what, time: '2026-07-01T08:05:00Z' }))).toEqual({ ...now, overtaken: true });
		expect(afterNews(now, change({ what, time: '2026-07-01T07:55:00Z' }))).toEqual(now);
		expect(afterNews(now, change({ what }))).toEqual({ ...now, overtaken: true });
	},
);
it('acid, a note, a decision leave it', () => {
	for (const c of [change({ what: 'acid_added' }), change({ what: 'note' }), change({ kind: 'decision' })])
		expect(afterNews(now, c)).toEqual(now);
});
it('an EC read elsewhere is what it is now, in doubt where the checks doubt it; an older one and a pH are not', () => {
	const reading = {
		time: '2026-07-01T08:10:00Z',
		quantity: 'ec',
		value: '1.60',
		unit: 'mS/cm',
		instrument: null,
		flag: 1,
	};
	const overtaken = { ...now, overtaken: true };
	const read = (r: Partial<typeof reading>) =>
		afterNews(overtaken, change({ kind: 'readings', readings: [{ ...reading, ...r }] }));
	expect(read({})).toEqual({ ecUsCm: 1600, at: READ + 600_000, doubted: false, overtaken: false });
	expect(read({ flag: 3 })).toMatchObject({ ecUsCm: 1600, doubted: true });
	expect(read({ time: '2026-07-01T07:00:00Z' })).toEqual(overtaken);
	expect(read({ quantity: 'ph', unit: 'pH', value: '6.1' })).toEqual(overtaken);
});
