import { unitNamed } from '@/core/quantity';
import { madSigma, median } from '@/core/series/robust';

const LIMITS: Record<string, [number, number]> = { ph: [4, 9], ec: [0, 6000], tds: [0, 6000], temp: [2, 40] };
const WINDOW = 15;

/** The plain way, one row after the other: fixed limits, and more than six scaled MADs off a rolling median of fifteen. */
export class PlainBaseline {
	private readonly windows = new Map<string, number[]>();

	flag(r: { station: string; quantity: string; value: string; unit: string }): boolean {
		const unit = unitNamed(r.unit);
		const value = Number(r.value) * (unit === 'mS/cm' ? 1000 : unit === 'ppm700' ? 1 / 0.7 : unit === 'ppm500' ? 2 : 1);
		const quantity = r.quantity === 'tds' ? 'ec' : r.quantity;
		const key = `${r.station} ${quantity}`;
		const window = this.windows.get(key) ?? [];
		const [low, high] = LIMITS[quantity]!;
		const off =
			window.length >= 7 &&
			Math.abs(value - median(window)) >
				6 * Math.max(madSigma(window), quantity === 'ph' ? 0.05 : 0.02 * Math.abs(median(window)));
		window.push(value);
		if (window.length > WINDOW) window.shift();
		this.windows.set(key, window);
		return value < low || value > high || off;
	}
}

export function plainFlags(
	rows: readonly { station: string; quantity: string; value: string; unit: string }[],
): boolean[] {
	const baseline = new PlainBaseline();
	return rows.map((r) => baseline.flag(r));
}
