import type { LiveKind } from '@/core/reading/protocol';
import type { MeterAdapter } from './adapter';
import { SimulatedAdapter } from './simulated';

/** A new kind of device is a line here. */
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
