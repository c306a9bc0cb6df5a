import type { Charted } from '@/contract/series';
import { QUANTITIES, QUANTITY, type Quantity } from '@/core/quantity';
import type { DisplayUnits, SiteView } from '@/core/reading/site-view';
import { displayUnit, QUANTITY_HUE, unitLabel } from '../../ui/format';
import { inDisplay } from '../in-display';

/** One line of a chart: a quantity of a station, as its sensor tells it or as hands read it. */
export interface Line {
	station: string;
	quantity: Charted;
}

export const lineKey = (l: Line): string => `${l.station}.${l.quantity}`;

/** Lines as an address has them: `pond.ph,slabs.do`; what is not known here is left out. */
export function linesFrom(text: string, known: readonly Line[]): Line[] {
	const of = new Map(known.map((l) => [lineKey(l), l]));
	return [...new Set(text.split(','))].flatMap((key) => of.get(key) ?? []);
}

export const quantityName = (q: Charted): string => (q === 'vpd' ? 'Vapour-pressure deficit' : QUANTITY[q].name);
export const lineUnit = (q: Charted, units: DisplayUnits): string =>
	q === 'vpd' ? 'kPa' : unitLabel(displayUnit(q, units) ?? QUANTITY[q].canonical);
export const lineName = (l: Line, site: SiteView): string =>
	`${site.stations.find((s) => s.info.code === l.station)?.name ?? l.station}, ${quantityName(l.quantity)}`;
export const inUnit = (q: Charted, v: number, site: SiteView): number => (q === 'vpd' ? v : inDisplay(q, v, site));

/** The colour of a quantity in the theme as it is. */
export function hueOf(q: Charted, theme: Record<string, string>): string {
	const name = /--[\w-]+/.exec((q === 'vpd' ? QUANTITY_HUE.humidity : QUANTITY_HUE[q as Quantity]) ?? '')?.[0];
	return (name && theme[name]) || theme['--color-base-content'] || '#000';
}

/** A chart has at most so many scales. */
export const MOST_SCALES = 3;
/** Lines that share a scale share a unit. */
export const scalesOf = (lines: readonly Line[], units: DisplayUnits): string[] => [
	...new Set(lines.map((l) => lineUnit(l.quantity, units))),
];

/** Every line there may be, in the order of the stations: what was read there by hand, and what sensors tell. */
export function knownLines(
	site: SiteView,
	nodes: readonly { station: string; series: readonly { quantity: Quantity }[] }[],
): Line[] {
	return site.stations.flatMap(({ info: { code }, seen, shape }) => {
		const told = nodes.filter((n) => n.station === code).flatMap((n) => n.series.map((s) => s.quantity));
		const there = new Set<string>([...seen.map((s) => (s.quantity === 'tds' ? 'ec' : s.quantity)), ...told]);
		if (told.includes('level') && shape !== '') there.add('volume');
		if (told.includes('air_temp') && told.includes('humidity')) there.add('vpd');
		return [...QUANTITIES, 'vpd' as const].filter((q) => there.has(q)).map((quantity) => ({ station: code, quantity }));
	});
}
