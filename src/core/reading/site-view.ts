import type { Sensitivity } from '../judge/context';
import type { Waits } from '../judge/waits';
import type { Quantity } from '../quantity';
import type { Place } from '../series/nights';
import type { InstrumentInfo, ProbeState, StationInfo } from './model';
import type { InstrumentKind } from './protocol';

/** What every page carries about the site, so that the quick line and Bench can judge while somebody types. */
export interface SiteStation {
	info: StationInfo;
	name: string;
	position: number;
	/** What is measured here by its rhythm. */
	measured: Quantity[];
	/** Own steps of measuring here; null: the usual ones. */
	protocol: { code: string; text: string }[] | null;
	/** How long was usually waited here, by quantity, where it was noted. */
	usualWaitS: Partial<Record<'ph' | 'ec', number>>;
	/** How a height becomes litres, as it was typed. */
	shape: string;
	/** What EC it usually shows, µS/cm; null where nothing is known of it. */
	usualEcUsCm: number | null;
	/** What was read here, by instrument, and when last. */
	seen: { quantity: string; instrument: string; at: number }[];
}
export interface SiteInstrument {
	info: InstrumentInfo;
	name: string;
	kind: InstrumentKind;
	/** How it speaks by itself, if it does. */
	live: 'none' | 'simulated';
	/** The values printed on the card of a drop kit; null: the usual ones. */
	printed: number[] | null;
	/** What is known of each of its probes by now. */
	probes: Partial<
		Record<
			'ph' | 'ec',
			{
				lastAt: number | null;
				/** Error today: pH, or percent; and its standard uncertainty. */
				error: number;
				u: number;
				/** It is beyond what may be left alone, and known well enough to say so. */
				told: boolean;
				dueAt: number | null;
				state: ProbeState | null;
				/** How its newest dips in standards came out, as found. */
				record: { passed: number; failed: number };
			}
		>
	>;
}
export interface SiteView {
	name: string;
	timezone: string;
	units: DisplayUnits;
	stations: SiteStation[];
	instruments: SiteInstrument[];
	/** What is no longer used, for the names in what was read there or with it. */
	retired: { code: string; name: string; station: boolean }[];
	settings: { waits: Waits; sensitivity: Sensitivity; altitudeM: number; place: Place | null };
	/** It is invented, to look at: it can be thrown away whole. */
	sample: boolean;
	/** Clock of the server when the page was made. */
	now: number;
}
/** Units that a site may read EC and volumes in. */
export const EC_UNITS = ['mS/cm', 'uS/cm', 'CF', 'ppm500', 'ppm640', 'ppm700'] as const;
export const VOLUME_UNITS = ['L', 'gal', 'imp_gal'] as const;
export interface DisplayUnits {
	ec: (typeof EC_UNITS)[number];
	temp: 'C' | 'F';
	volume: (typeof VOLUME_UNITS)[number];
}
