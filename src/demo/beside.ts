import { seeded } from '@/sim/random';
import type { DemoReading, Season } from './written';

/** What is measured beside pH and EC: nitrate, potassium and calcium by ion pens once a week, and the dipstick of the Bench tank each morning. */
const DAY = 86_400_000;
const MINUTE = 60_000;
const DAYS = 92;
const ION_DAY = 3;
/** Of the mix, mg/L: what a tank is filled and topped up with (common practice for leafy crops, no source). */
const MIX = { no3: 620, k: 210, ca: 150 } as const;
const PENS = { no3: 'fern', k: 'moss', ca: 'reed' } as const;
/** What the chives of the Bench tank take up of each in a day, mg. */
const TAKEN = { no3: 1250, k: 310, ca: 60 } as const;
type Ion = keyof typeof MIX;
const IONS = Object.keys(MIX) as Ion[];
/** The Bench tank is a box of 40 by 30 cm. */
const MM_PER_LITRE = 10 / 1.2;
/** A pen and the hand that holds it. */
const PEN_ERROR = 0.06;
/** A dipstick is read to the nearest of these, mm. */
const STICK_MM = 2;

export function measuredBeside(s: Season, end: number, seed: number): DemoReading[] {
	const chance = seeded(seed);
	const out: DemoReading[] = [];
	const read = (at: number, station: string, quantity: DemoReading['quantity'], truth: number, shown: number) =>
		out.push({
			at,
			station,
			instrument: quantity === 'level' ? '' : PENS[quantity as Ion],
			quantity,
			digits: String(shown),
			unit: quantity === 'level' ? 'mm' : 'mg/L',
			tempC: null,
			waitS: null,
			note: '',
			truth,
			shown,
			fault: '',
		});
	const ions = (at: number, station: string, of: Readonly<Record<Ion, number>>) => {
		for (const ion of IONS)
			read(at, station, ion, of[ion], Math.max(Math.round(of[ion] * (1 + PEN_ERROR * chance.normal())), 1));
	};
	const bench = s.course.filter((c) => c.station === 'bench');
	const first = bench.find((c) => c.at >= end - DAYS * DAY);
	if (!first) return out;
	const mass = Object.fromEntries(IONS.map((i) => [i, MIX[i] * first.volumeL])) as Record<Ion, number>;
	for (let left = DAYS - 1; left >= 0; left--) {
		const morning = end - left * DAY;
		const here = bench.findLast((c) => c.at <= morning);
		if (!here) continue;
		for (const e of s.events)
			if (
				e.station === 'bench' &&
				e.kind === 'water_added' &&
				e.product === 'mix' &&
				e.at > morning - DAY &&
				e.at <= morning
			)
				for (const i of IONS) mass[i] += MIX[i] * (e.amount ?? 0);
		// What is left of it is taken up more slowly.
		for (const i of IONS) mass[i] -= TAKEN[i] * (mass[i] / (mass[i] + 40 * here.volumeL));
		read(
			morning + 34 * MINUTE,
			'bench',
			'level',
			here.volumeL * MM_PER_LITRE,
			Math.round((here.volumeL * MM_PER_LITRE) / STICK_MM) * STICK_MM,
		);
		if (left % 7 !== ION_DAY) continue;
		ions(morning + 40 * MINUTE, 'bench', {
			no3: mass.no3 / here.volumeL,
			k: mass.k / here.volumeL,
			ca: mass.ca / here.volumeL,
		});
		const wave = Math.sin(left / 9);
		ions(morning + 46 * MINUTE, 'pond', { no3: 590 + 45 * wave, k: 205 + 18 * wave, ca: 158 - 8 * wave });
	}
	return out;
}
