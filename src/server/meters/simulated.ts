import { PLAIN_METER, SimulatedMeter } from '@/sim/meter';
import { seeded } from '@/sim/random';
import { pause } from '../sse';
import type { MeterAction, MeterAdapter } from './adapter';

const STEP_MS = 250;

/** A simulated meter behind the same seam as a real one. It lives as long as the server does. */
export class SimulatedAdapter implements MeterAdapter {
	readonly simulated = true;
	private readonly meter: SimulatedMeter;
	/** Seconds since the last dip, by the meter's own clock; null out of the water. */
	private elapsed: number | null = null;
	private speed = 1;
	private at = performance.now();

	constructor(seed: number) {
		this.meter = new SimulatedMeter({ ...PLAIN_METER, bubbleChance: 0.15 }, seeded(seed));
	}

	act(action: MeterAction): void {
		this.advance();
		switch (action.do) {
			case 'dip':
				this.meter.dip(action.water);
				this.elapsed = 0;
				break;
			case 'set':
				if (action.compensates !== undefined) this.meter.setCompensation(action.compensates);
				if (action.speed !== undefined) this.speed = action.speed;
				break;
			case 'swirl':
				this.meter.swirl();
				break;
			default:
				this.meter[action.do]();
				this.elapsed = null;
		}
	}

	private advance() {
		const now = performance.now();
		const seconds = ((now - this.at) / 1000) * this.speed;
		this.at = now;
		if (this.elapsed !== null) this.elapsed += seconds;
		return this.meter.after(Math.max(seconds, 0.001));
	}

	async *open(signal: AbortSignal): AsyncGenerator<unknown> {
		while (await pause(STEP_MS, signal)) {
			const shown = this.advance();
			if (this.elapsed === null) continue;
			yield {
				s: Math.round(this.elapsed * 100) / 100,
				ph: shown.ph,
				ec_us_cm: shown.ecUsCm,
				temp_c: shown.tempC,
				compensated: this.meter.compensates,
			};
		}
	}
}
