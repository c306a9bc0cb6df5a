import type { TrendFound } from '@/contract/series';
import { QUANTITY, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { paceWords, reachesWords, trendWords } from '@/words/en/trend';
import { dateTime, displayUnit, shortDay, shownWithUnit, unitLabel } from '../ui/format';
import { inDisplay } from './in-display';

/** How fast it goes, in the unit that is shown: a slope has no place on the scale, so what a unit is shifted by falls out. */
function perDay(q: Quantity, v: number, site: SiteView): string {
	const by = inDisplay(q, v, site) - inDisplay(q, 0, site);
	return `${by < 0 ? '−' : '+'}${Math.abs(Number(by.toPrecision(2)))}`;
}

/** What a series does between events, in a sentence above its chart; nothing where nothing can be said. */
export function TrendLine({ trend: t, site }: { trend: TrendFound | undefined; site: SiteView }) {
	if (!t) return null;
	const unit = displayUnit(t.quantity, site.units);
	const named =
		t.quantity === 'ph' || t.quantity === 'ec' ? QUANTITY[t.quantity].name : QUANTITY[t.quantity].name.toLowerCase();
	const words = trendWords(
		t,
		named,
		t.per_day && {
			// Which way is said in words.
			value: `${perDay(t.quantity, t.per_day.value, site).slice(1)}${unit ? ` ${unitLabel(unit)}` : ''}`,
			low: perDay(t.quantity, t.per_day.low, site),
			high: perDay(t.quantity, t.per_day.high, site),
		},
	);
	if (words === '') return null;
	return (
		<p
			className={t.says === 'unknown' || t.says === 'steady' ? 'text-soft' : ''}
			data-trend={`${t.quantity} ${t.says}`}
		>
			{words}
			{t.pace && (
				<span data-pace>
					{' '}
					{paceWords(
						perDay(t.quantity, t.pace.before, site),
						perDay(t.quantity, t.pace.after, site),
						shortDay(Date.parse(t.pace.since), site.timezone),
					)}
				</span>
			)}
			{t.reaches.map((w) => (
				<strong key={w.limit} className="block" data-reaches={w.limit}>
					{reachesWords(
						named,
						shownWithUnit(t.quantity, w.limit, site.units),
						dateTime(Date.parse(w.from), site.timezone),
						dateTime(Date.parse(w.to), site.timezone),
						Date.parse(w.from) <= site.now + 3_600_000,
					)}
				</strong>
			))}
		</p>
	);
}
