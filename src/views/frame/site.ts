import type { EngineSnapshot } from '@/core/reading/engine';
import type { InstrumentInfo, StationInfo } from '@/core/reading/model';

/** What every page carries about the site, so that the quick line and Bench can judge while somebody types. */
export interface FrameStation {
	info: StationInfo;
	name: string;
	position: number;
}
export interface FrameInstrument {
	info: InstrumentInfo;
	name: string;
	kind: string;
}
export interface FrameSite {
	name: string;
	timezone: string;
	units: DisplayUnits;
	stations: FrameStation[];
	instruments: FrameInstrument[];
	engine: EngineSnapshot;
	/** Clock of the server when the page was made. */
	now: number;
}
export interface DisplayUnits {
	ec: 'mS/cm' | 'uS/cm' | 'ppm500' | 'ppm700';
	temp: 'C' | 'F';
}
