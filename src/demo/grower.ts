import { toCanonical, unitNamed } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import type { Pen } from '@/sim/pen';
import type { Random } from '@/sim/random';
import type { Tank } from '@/sim/tank';
import type { DemoCalibration, DemoReading, Sample } from './written';

const MINUTE = 60_000;

/** The afternoon: what the grower does after reading. */
export function tend(
	at: number,
	w: { pond: Tank; slabs: Tank; bench: Tank; mixEc: number; mixPh: number },
	event: (at: number, station: string, kind: EventKind, amount: number | null, unit: string, product: string) => void,
	day: number,
	chance: Random,
	/** The Bench tank is seldom touched. */
	benchDay: boolean,
): void {
	const care = (tank: Tank, station: string, acidMeqPerMl: number, highPh: number) => {
		const { state, traits } = tank;
		if (state.volumeL < traits.fullL * 0.9) {
			const litres = Math.round((traits.fullL * 0.98 - state.volumeL) / 5) * 5;
			if (litres > 0) {
				// A tank that grows salty is topped up with rain water instead of mix.
				const salty = state.ecUsCm > (station === 'bench' ? 1900 : 2150);
				tank.add(litres, salty ? 60 : w.mixEc, salty ? state.ph : w.mixPh);
				event(at, station, 'water_added', litres, 'L', salty ? 'rain' : 'mix');
			}
		}
		if (state.ecUsCm < 1450 && station === 'bench') {
			tank.feed(250);
			event(at + 10 * MINUTE, station, 'nutrient_added', 40, 'mL', 'feed A and B');
		}
		if (state.ecUsCm < 1650 && station === 'pond') {
			tank.feed(220);
			event(at + 10 * MINUTE, station, 'nutrient_added', 500, 'mL', 'feed A and B');
		}
		if (state.ph > highPh) {
			const meq = (state.ph - (highPh - 0.55)) * traits.bufferMeq * state.volumeL * 0.8;
			const mL = Math.max(Math.round(meq / acidMeqPerMl), 1);
			tank.dose(mL * acidMeqPerMl);
			event(at + 20 * MINUTE, station, 'acid_added', mL, 'mL', 'pH down');
		}
	};
	care(w.pond, 'pond', 4.2, 6.35);
	care(w.slabs, 'slabs', 4.2, 6.1);
	if (benchDay) care(w.bench, 'bench', 0.5, 6.6);
	if (day % 60 === 50) {
		w.slabs.state.ecUsCm = 2050 * (1 + 0.01 * chance.normal());
		w.slabs.state.ph = 5.75;
		w.slabs.state.volumeL = 590;
		event(at + 60 * MINUTE, 'slabs', 'solution_changed', 590, 'L', '');
	}
}

/** When the grower dips the pens in their standards, and what they showed there. */
export function calibrate(
	day: number,
	at: number,
	pens: { plum: Pen; brass: Pen; minnow: Pen },
	out: DemoCalibration[],
	chance: Random,
	days: number,
): void {
	const tempC = 20;
	const phPoints = (pen: Pen, adjusted: boolean) => {
		const found = [7.02, 4.0].map((n) => Number(pen.ph(n)));
		if (adjusted) pen.adjust();
		return [
			{ standard: 'pH 7.00', nominal: 7.02, asFound: found[0]!, asLeft: adjusted ? Number(pen.ph(7.02)) : null },
			{ standard: 'pH 4.01', nominal: 4.0, asFound: found[1]!, asLeft: adjusted ? Number(pen.ph(4.0)) : null },
		];
	};
	if (day % 14 === 6)
		out.push({ at, instrument: 'plum', quantity: 'ph', kind: 'adjust', points: phPoints(pens.plum, true), tempC });
	// Brass is checked when somebody thinks of it.
	if ([5, 31, 64, 88, 119, 150, 171, 199, days - 20].includes(day))
		out.push({
			at: at + 10 * MINUTE,
			instrument: 'brass',
			quantity: 'ph',
			kind: 'adjust',
			points: phPoints(pens.brass, true),
			tempC,
		});
	if (day % 30 === 11)
		for (const name of ['plum', 'minnow'] as const) {
			const found = pens[name].ecUsCm(1420);
			pens[name].ecFactor = 1 + 0.003 * chance.normal();
			out.push({
				at: at + 20 * MINUTE,
				instrument: name,
				quantity: 'ec',
				kind: 'adjust',
				points: [{ standard: 'KCl 1413', nominal: 1420, asFound: found, asLeft: pens[name].ecUsCm(1420) }],
				tempC,
			});
		}
}

/** What the grower writes, slips included. */
export function writeDown(
	s: Sample,
	pens: { plum: Pen; brass: Pen; minnow: Pen },
	out: DemoReading[],
	chance: Random,
	today: readonly Sample[],
	lastDay: boolean,
): void {
	const tempText = pens.plum.temp(s.tempC);
	const tempC = Number(tempText);
	const base = { at: s.at, station: s.station, tempC, waitS: 30, note: '' };
	const sample: Omit<DemoReading, 'shown'>[] = [];
	if (s.ph !== null)
		sample.push({
			...base,
			instrument: s.phPen,
			quantity: 'ph',
			digits: pens[s.phPen].ph(s.ph),
			unit: 'pH',
			truth: s.ph,
			fault: '',
		});
	if (s.ecUsCm !== null && s.ecPen !== null) {
		const shown = pens[s.ecPen].ecUsCm(s.ecUsCm);
		if (s.ecPen === 'minnow')
			sample.push({
				...base,
				instrument: 'minnow',
				quantity: 'tds',
				digits: String(Math.round((shown * 0.7) / 10) * 10),
				unit: 'ppm700',
				truth: s.ecUsCm,
				fault: '',
			});
		else
			sample.push({
				...base,
				instrument: s.ecPen,
				quantity: 'ec',
				digits: (shown / 1000).toFixed(2),
				unit: 'mS/cm',
				truth: s.ecUsCm,
				fault: '',
			});
	}
	sample.push({
		...base,
		instrument: s.ecPen ?? s.phPen,
		quantity: 'temp',
		digits: tempText,
		unit: 'C',
		tempC: null,
		truth: s.tempC,
		fault: '',
	});
	const shown = sample.map((r) => toCanonical(Number(r.digits), unitNamed(r.unit)!));
	// The last morning has one slip, chosen, so that a first look at the demo has something to decide.
	if (lastDay) {
		const ec = sample.find((r) => r.quantity === 'ec');
		if (s.station === 'slabs' && ec)
			Object.assign(ec, { digits: (Number(ec.digits) * 10).toFixed(1), fault: 'decimal-slip' });
	} else slipOnce(sample, s, chance, today);
	out.push(...sample.map((r, i) => ({ ...r, shown: shown[i]! })));
}

function slipOnce(sample: Omit<DemoReading, 'shown'>[], s: Sample, chance: Random, today: readonly Sample[]): void {
	if (!chance.chance(0.02)) return;
	const ph = sample.find((r) => r.quantity === 'ph');
	const ec = sample.find((r) => r.quantity === 'ec');
	const tds = sample.find((r) => r.quantity === 'tds');
	const temp = sample.find((r) => r.quantity === 'temp');
	const kind = chance.pick([
		'unit',
		'decimal-ph',
		'decimal-ec',
		'swapped',
		'scale',
		'fahrenheit',
		'wrong-station',
	] as const);
	if (kind === 'unit' && ec)
		Object.assign(ec, { digits: String(Math.round(Number(ec.digits) * 1000)), fault: 'unit-slip' });
	else if (kind === 'decimal-ph' && ph)
		Object.assign(ph, { digits: ph.digits.replace('.', ''), fault: 'decimal-slip' });
	else if (kind === 'decimal-ec' && ec)
		Object.assign(ec, { digits: (Number(ec.digits) * 10).toFixed(1), fault: 'decimal-slip' });
	else if (kind === 'swapped' && ph && ec) {
		[ph.digits, ec.digits] = [ec.digits, ph.digits];
		ph.fault = 'swapped';
		ec.fault = 'swapped';
	} else if (kind === 'scale' && tds && s.ecUsCm! > 300)
		Object.assign(tds, { unit: 'ppm500', fault: 'scale-mismatch' });
	else if (kind === 'fahrenheit' && temp)
		Object.assign(temp, { digits: ((Number(temp.digits) * 9) / 5 + 32).toFixed(1), fault: 'fahrenheit' });
	else if (kind === 'wrong-station' && ph && ec) {
		const other = today.find((o) => o.station === 'gutters-drain' || o.station === 'borehole');
		if (other && other.station !== s.station && s.station !== 'mix')
			for (const r of sample) Object.assign(r, { station: other.station, fault: 'wrong-station' });
	}
}

/** The other pen in the cup that a sample was read in. */
export function besideIt(s: Sample, pens: { plum: Pen; brass: Pen }, chance: Random): DemoReading {
	const other = s.phPen === 'plum' ? 'brass' : 'plum';
	const decimals = other === 'plum' ? 2 : 1;
	const digits = (s.ph! + pens[other].phOffset + 0.015 * chance.normal()).toFixed(decimals);
	return {
		at: s.at,
		station: s.station,
		instrument: other,
		quantity: 'ph',
		digits,
		unit: 'pH',
		tempC: Number(s.tempC.toFixed(1)),
		waitS: 30,
		note: '',
		truth: s.ph!,
		shown: Number(digits),
		fault: '',
	};
}
