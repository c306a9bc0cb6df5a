import type { EngineSnapshot } from './engine';
import type { InstrumentInfo, StationInfo } from './model';

/** What every page carries about the site, so that the quick line and Bench can judge while somebody types. */
export interface SiteStation {
	info: StationInfo;
	name: string;
	position: number;
}
export interface SiteInstrument {
	info: InstrumentInfo;
	name: string;
	kind: string;
	/** How each of its probes drifts, since its last calibration. */
	probes: Partial<Record<'ph' | 'ec', { lastAt: number | null; sigmaPerRootDay: number; ratePerDay: number }>>;
}
export interface SiteView {
	name: string;
	timezone: string;
	units: DisplayUnits;
	stations: SiteStation[];
	instruments: SiteInstrument[];
	engine: EngineSnapshot;
	/** Clock of the server when the page was made. */
	now: number;
}
export interface DisplayUnits {
	ec: 'mS/cm' | 'uS/cm' | 'ppm500' | 'ppm700';
	temp: 'C' | 'F';
}
