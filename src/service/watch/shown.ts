import { fromCanonical, QUANTITY, type SeriesQuantity } from '@/core/quantity';
import { dateFormat } from '@/core/quantity/date-format';
import type { DisplayUnits } from '@/core/reading/site-view';
import type { AlertRow, ConditionRow } from '@/store/watch';
import { displayValue } from '@/words/en/value';
import { alertWords } from '@/words/en/watch';
import type { SiteContext } from '../site';

/** A value as it is told: with its unit, as the site reads it. */
function told(quantity: SeriesQuantity | null, value: number | null, units: Partial<DisplayUnits>): string | null {
	if (value === null || quantity === null) return null;
	if (quantity === 'temp' && units.temp === 'F') return `${fromCanonical(value, 'F').toFixed(1)} °F`;
	const shown = displayValue(quantity, value);
	return /[^\d.,−-]/.test(shown) ? shown : `${shown} ${QUANTITY[quantity].canonical}`;
}

/** An alert in a sentence, by the clock and the units of the site. */
export function alertSentence(context: SiteContext, c: ConditionRow, a: AlertRow, ended: boolean): string {
	const clock = dateFormat('en-GB', {
		timeZone: context.site.timezone,
		weekday: 'short',
		day: 'numeric',
		month: 'short',
		hour: '2-digit',
		minute: '2-digit',
		hourCycle: 'h23',
	});
	const value = (v: number | null) => told(c.quantity, v, context.site.units);
	return alertWords({
		kind: c.kind,
		station: context.stations.find((s) => s.id === c.stationId)?.name ?? c.station,
		quantity: c.quantity,
		value: value(a.value),
		limit: value(a.limit),
		since: clock.format(a.since),
		expected: a.expectedAt === null ? null : clock.format(a.expectedAt),
		ended,
	});
}
