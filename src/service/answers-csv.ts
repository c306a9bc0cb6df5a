import type { z } from 'zod';
import type { Contract } from '@/contract';
import { formatTime } from '@/core/quantity/time';
import { csvLine } from '@/files/table';

/** Answers of the API as tables, for who reckons on in one. Figures are those of the answer, in the same units. */
type Answer<A extends keyof Contract> = Contract[A] extends { answer: infer S extends z.ZodType } ? z.output<S> : never;

const figure = (x: number | null | undefined): string => (x == null ? '' : String(x));

/** One line for each drain sample with the feed of its time; EC in µS/cm. */
export async function* drainsCsv({ system, samples }: Answer<'GET /drains'>): AsyncGenerator<string> {
	yield csvLine([
		'time',
		'system',
		'drain_us_cm',
		'feed_us_cm',
		'ec_delta_us_cm',
		'ec_delta_u',
		'ph_delta',
		'applied_l',
		'drained_l',
		'leaching_fraction',
		'uptake_ec_us_cm',
		'uptake_low',
		'uptake_high',
		'verdict',
	]);
	for (const s of samples) {
		const b = s.balance;
		yield csvLine([
			formatTime(s.at),
			system,
			...[
				s.drain.value,
				s.feed.value,
				s.ecDeltaUsCm,
				s.ecDeltaU,
				s.phDelta,
				b?.appliedL,
				b?.drainedL,
				b?.leachingFraction.value,
				b?.uptakeEcUsCm?.value,
				b?.uptakeEcUsCm?.low,
				b?.uptakeEcUsCm?.high,
			].map(figure),
			s.verdict,
		]);
	}
}

/** One line for each quantity; slopes in its canonical unit a day. */
export async function* trendsCsv(station: string, { trends }: Answer<'GET /trends'>): AsyncGenerator<string> {
	yield csvLine(['station', 'quantity', 'says', 'per_day', 'low', 'high', 'p', 'readings', 'spans', 'from', 'to']);
	for (const t of trends)
		yield csvLine([
			station,
			t.quantity,
			t.says,
			...[t.perDay?.value, t.perDay?.low, t.perDay?.high, t.p].map(figure),
			String(t.readings),
			String(t.spans),
			...[t.from, t.to].map((at) => (at === null ? '' : formatTime(at))),
		]);
}

/** One line for each point of a series, in canonical units. */
export async function* seriesCsv(
	station: string,
	quantity: string,
	{ rollup, points }: Answer<'GET /stations/:code/series'>,
): AsyncGenerator<string> {
	yield csvLine([
		'at',
		'station',
		'instrument',
		'quantity',
		'value',
		'least',
		'greatest',
		'count',
		'worst_flag',
		'believed',
		'restated',
		'rollup',
	]);
	for (const p of points)
		yield csvLine([
			formatTime(p.at),
			station,
			p.instrument ?? '',
			quantity,
			...[p.value, p.least, p.greatest, p.count, p.flag, p.believed, p.restated].map(figure),
			rollup,
		]);
}

/** One line for each cause of each quantity. */
export async function* explanationsCsv({ station, explanations }: Answer<'GET /explanations'>): AsyncGenerator<string> {
	yield csvLine([
		'station',
		'quantity',
		'says',
		'way',
		'moved',
		'days',
		'cause',
		'chance',
		'cause_moved',
		'for',
		'against',
	]);
	for (const e of explanations) {
		const head = [station, e.quantity, e.says, e.way ?? '', e.moved ? String(e.moved.value) : '', String(e.days)];
		if (e.causes.length === 0) yield csvLine([...head, '', '', '', '', '']);
		for (const c of e.causes) {
			const side = (sign: number) =>
				c.evidence
					.filter((x) => x.weight * sign > 0)
					.map((x) => `${x.says} ${x.value}`)
					.join('; ');
			yield csvLine([...head, c.cause, String(c.chance), String(c.moved.value), side(1), side(-1)]);
		}
	}
}

/** One line for each stage that was or will be. */
export async function* plansCsv({ plans }: Answer<'GET /plans'>): AsyncGenerator<string> {
	yield csvLine(['system', 'stage', 'from', 'until', 'begun', 'ec_low_us_cm', 'ec_high_us_cm', 'ph_low', 'ph_high']);
	for (const p of plans)
		for (const span of p.spans) {
			const s = p.stages[span.index]!;
			yield csvLine([
				p.system,
				s.name,
				span.from,
				span.until ?? '',
				span.begun ? 'yes' : 'no',
				...[...s.ecUsCm, ...s.ph].map(String),
			]);
		}
}
