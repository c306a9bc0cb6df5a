import type { LiveKind } from '@/core/reading/protocol';
import type { MeterAdapter } from './adapter';
import { SimulatedAdapter } from './simulated';

/** A new kind of device is a line here. */
const MAKE: Record<Exclude<LiveKind, 'none'>, (instrument: string) => MeterAdapter> = {
	simulated: (instrument) => new SimulatedAdapter([...instrument].reduce((sum, c) => sum * 31 + c.charCodeAt(0), 7)),
};

/** By site and instrument. */
const open = new Map<string, MeterAdapter>();

/** The adapter of an instrument, made at its first use; undefined for one that is typed in by hand. */
export function meterOf(siteId: number, instrument: string, live: LiveKind): MeterAdapter | undefined {
	if (live === 'none') return undefined;
	const key = `${siteId} ${instrument}`;
	let adapter = open.get(key);
	if (!adapter) {
		adapter = MAKE[live](instrument);
		open.set(key, adapter);
	}
	return adapter;
}
