import type { MeterAdapter } from './adapter';
import { SimulatedAdapter } from './simulated';

/** How an instrument may speak by itself; `none` is typed in by hand. A new kind of device is a line here. */
export const LIVE_KINDS = ['none', 'simulated'] as const;
export type LiveKind = (typeof LIVE_KINDS)[number];

const MAKE: Record<Exclude<LiveKind, 'none'>, (instrument: string) => MeterAdapter> = {
	simulated: (instrument) => new SimulatedAdapter([...instrument].reduce((sum, c) => sum * 31 + c.charCodeAt(0), 7)),
};

const open = new Map<string, MeterAdapter>();

/** The adapter of an instrument, made at its first use; undefined for one that is typed in by hand. */
export function meterOf(instrument: string, live: LiveKind): MeterAdapter | undefined {
	if (live === 'none') return undefined;
	let adapter = open.get(instrument);
	if (!adapter) {
		adapter = MAKE[live](instrument);
		open.set(instrument, adapter);
	}
	return adapter;
}
