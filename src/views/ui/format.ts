import { fromCanonical, QUANTITY, type Quantity, seriesQuantity, type Unit } from '@/core/quantity';
import { dateFormat } from '@/core/quantity/date-format';
import type { DisplayUnits } from '@/core/reading/site-view';

/** How values, units and times are shown. */
export function displayUnit(quantity: Quantity, units: DisplayUnits): Unit | null {
	switch (seriesQuantity(quantity)) {
		case 'ec':
		case 'substrate_ec':
			return units.ec;
		case 'temp':
		case 'air_temp':
			return units.temp;
		case 'volume':
			return units.volume;
		default:
			return null;
	}
}

/** How units are written, where that is not their code. */
export const UNIT_LABELS: Record<string, string> = {
	'uS/cm': 'µS/cm',
	C: '°C',
	F: '°F',
	pH: '',
	gal: 'US gal',
	imp_gal: 'imp. gal',
	ppm500: 'ppm (500)',
	ppm640: 'ppm (640)',
	ppm700: 'ppm (700)',
	'mg/L_CaCO3': 'mg/L CaCO3',
	'mg/L_HCO3': 'mg/L HCO3',
	dKH: '°dKH',
	dGH: '°dGH',
};
export const unitLabel = (unit: string): string => UNIT_LABELS[unit] ?? unit;

export function shown(quantity: Quantity, canonical: number, units: DisplayUnits): string {
	const unit = displayUnit(quantity, units);
	const value = unit ? fromCanonical(canonical, unit) : canonical;
	switch (seriesQuantity(quantity)) {
		case 'ph':
			return value.toFixed(2);
		case 'ec':
		case 'substrate_ec':
			return unit === 'mS/cm'
				? value.toFixed(value < 0.0995 && value > 0 ? 3 : 2)
				: value.toFixed(unit === 'CF' ? 1 : 0);
		case 'temp':
		case 'air_temp':
			return value.toFixed(1);
		default:
			return String(Number(value.toPrecision(4)));
	}
}

/** The head of a column: what it is, and in what unit. */
export function columnHead(quantity: Quantity, units: DisplayUnits): string {
	const unit = unitLabel(displayUnit(quantity, units) ?? QUANTITY[quantity].canonical);
	return quantity === 'temp' ? unit : [QUANTITY[quantity].name, unit].filter(Boolean).join(', ');
}

/** A value in a sentence, with its unit. */
export function shownWithUnit(quantity: Quantity, canonical: number, units: DisplayUnits): string {
	const unit = unitLabel(displayUnit(quantity, units) ?? QUANTITY[quantity].canonical);
	return seriesQuantity(quantity) === 'ph'
		? `pH ${shown(quantity, canonical, units)}`
		: `${shown(quantity, canonical, units)} ${unit}`;
}

/** "6 d", "3 h", "4 min": how long ago, short. */
export function age(from: number, now: number): string {
	const minutes = Math.round((now - from) / 60_000);
	if (minutes < 1) return 'now';
	if (minutes < 60) return `${minutes} min`;
	const hours = Math.round(minutes / 60);
	if (hours < 36) return `${hours} h`;
	return `${Math.round(hours / 24)} d`;
}

/** The same in a sentence: "6 d ago", "just now". */
export function ago(from: number, now: number): string {
	const short = age(from, now);
	return short === 'now' ? 'just now' : `${short} ago`;
}

export function dateTime(at: number, timezone: string): string {
	return dateFormat('en-GB', {
		timeZone: timezone,
		day: 'numeric',
		month: 'short',
		hour: '2-digit',
		minute: '2-digit',
		hourCycle: 'h23',
	}).format(at);
}

/** A day without its year: `3 Aug`. */
export const shortDay = (at: number, timezone: string): string =>
	dateFormat('en-GB', { timeZone: timezone, day: 'numeric', month: 'short' }).format(at);

export function longDate(at: number, timezone: string): string {
	return dateFormat('en-GB', {
		timeZone: timezone,
		weekday: 'long',
		day: 'numeric',
		month: 'long',
	}).format(at);
}

/** The colour of each quantity by its name in app.css: `data-hue` there, `--q-…` as a value. */
export const HUE_NAME: Partial<Record<Quantity, string>> = {
	ph: 'ph',
	ec: 'ec',
	tds: 'ec',
	temp: 'temp',
	level: 'level',
	volume: 'level',
	flow: 'level',
	do: 'do',
	orp: 'do',
	air_temp: 'air',
	humidity: 'air',
	no3: 'ion',
	k: 'ion',
	ca: 'ion',
	moisture: 'root',
	substrate_ec: 'root',
};
export const QUANTITY_HUE: Partial<Record<Quantity, string>> = Object.fromEntries(
	Object.entries(HUE_NAME).map(([q, name]) => [q, `var(--q-${name})`]),
);

/** A chance in words that promise nothing certain: 0.998 is "over 99 %". */
export const chanceWords = (p: number): string =>
	p > 0.99 ? 'over 99 %' : p < 0.01 ? 'under 1 %' : `${Math.round(100 * p)} %`;
