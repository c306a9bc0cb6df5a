/**
 * The seam for a meter that speaks by itself. An adapter hands over what the device says, message by message, and does
 * no judging: the receiver leaves out what cannot be (core/reading/stream.ts). A serial or Bluetooth device needs one
 * object like this, listed in registry.ts; nothing else changes.
 */
export interface MeterAdapter {
	/** Whether the values are invented, which the screen then says. */
	readonly simulated: boolean;
	/**
	 * Values as they come until the signal ends: `{s, ph?, ec_us_cm?, temp_c?, compensated?}` with seconds since the probe
	 * went in. Anything else may come too and is refused by the receiver.
	 */
	open(signal: AbortSignal): AsyncIterable<unknown>;
	/** What a hand does to it; only a simulated one has to be told. */
	act?(action: MeterAction): void;
}

export type MeterAction =
	| { do: 'rinse' | 'swirl' | 'store' | 'lift' }
	| { do: 'dip'; water: { ph: number; ecUsCm: number; tempC: number } }
	| { do: 'set'; compensates?: boolean | undefined; speed?: number | undefined };
