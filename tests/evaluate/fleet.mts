import type { Sighting } from '../../src/core/probe/error-curve/pairs';
import { pairsOf } from '../../src/core/probe/error-curve/pairs';
import { SiteErrors } from '../../src/core/probe/error-curve/site-errors';
import { errorBelief, isTold, restateReadings, THRESHOLDS } from '../../src/core/probe/timeline';
import { apartToday } from '../../src/core/probe/today';
import { FLEET_KINDS, type Fleet, simulateFleet } from './fleet-worlds';

/**
 * Fleets of probes read by the error curve, held against what the water truly was: with pairs, and by calibrations alone.
 * `npm run evaluate:fleet -- 1 20 [kind]`
 */
const [from = 1, to = 10] = process.argv.slice(2, 4).map(Number);
const only = process.argv[4];
const DAY = 86_400_000;

interface Tally {
	readings: number;
	original: number;
	alone: number;
	joint: number;
	/** The same with every error taken off, also one that may be left alone; and so by calibrations alone. */
	all: number;
	allAlone: number;
	/** With the true error of each probe known: the noise of each reading, and slips. */
	floor: number;
	aloneIn: number;
	jointIn: number;
	afterCheck: number;
	afterCheckIn: number;
	forward: number;
	forwardIn: number;
	hidden: number;
	apart: number;
	apartInFive: number;
	falseApart: number;
	told: number;
	inFive: number;
	falseTold: number;
	probeYears: number;
}
const nothing = (): Tally => ({
	readings: 0,
	original: 0,
	alone: 0,
	joint: 0,
	all: 0,
	allAlone: 0,
	floor: 0,
	aloneIn: 0,
	jointIn: 0,
	afterCheck: 0,
	afterCheckIn: 0,
	forward: 0,
	forwardIn: 0,
	hidden: 0,
	apart: 0,
	apartInFive: 0,
	falseApart: 0,
	told: 0,
	inFive: 0,
	falseTold: 0,
	probeYears: 0,
});

function probesOf(fleet: Fleet) {
	return fleet.probes.map((p) => ({
		code: p.code,
		calibrations: fleet.calibrations.filter((c) => c.probe === p.code),
		jumps: fleet.jumps.filter((j) => j.probe === p.code),
		kit: p.kind === 'kit' ? { halfStep: 0.25 } : undefined,
	}));
}

function sightingsOf(fleet: Fleet): Sighting[] {
	const kinds = new Map(fleet.probes.map((p) => [p.code, p.kind]));
	return fleet.readings.map((r) => ({
		id: r.id,
		probe: r.probe,
		continuous: kinds.get(r.probe) === 'continuous',
		station: r.station,
		sample: r.sample < 0 ? null : String(r.sample),
		at: r.at,
		value: r.value,
		uRepeat: kinds.get(r.probe) === 'kit' ? r.u : r.uRepeat,
	}));
}

function measure(fleet: Fleet, t: Tally): void {
	const { quantity } = fleet;
	const sightings = sightingsOf(fleet);
	const pairs = pairsOf(quantity, sightings, () => false);
	const joint = new SiteErrors(quantity, probesOf(fleet), pairs);
	const alone = new SiteErrors(quantity, probesOf(fleet), []);
	for (const p of fleet.probes) {
		if (p.kind === 'kit') continue;
		const own = fleet.readings.filter((r) => r.probe === p.code);
		const a = restateReadings(quantity, own, alone.of(p.code)!).outcomes;
		const j = restateReadings(quantity, own, joint.of(p.code)!).outcomes;
		const every = { ...THRESHOLDS[quantity], leaveAlone: 0 };
		const jAll = restateReadings(quantity, own, joint.of(p.code)!, every).outcomes;
		const aAll = restateReadings(quantity, own, alone.of(p.code)!, every).outcomes;
		const calibrations = fleet.calibrations.filter((c) => c.probe === p.code);
		for (const [i, r] of own.entries()) {
			if (j[i]!.status === 'rejected') continue;
			const relative = (v: number) => (quantity === 'ph' ? v - r.truth : (v - r.truth) / r.truth / 0.15);
			t.readings++;
			t.original += relative(r.value) ** 2;
			t.alone += relative(a[i]!.value) ** 2;
			t.joint += relative(j[i]!.value) ** 2;
			t.all += relative(jAll[i]!.value) ** 2;
			t.allAlone += relative(aAll[i]!.value) ** 2;
			t.floor += relative(r.value - fleet.errorAt(p.code, r.at, r.truth)) ** 2;
			const inside = (o: { value: number; u: number }) => (Math.abs(o.value - r.truth) <= 1.96 * o.u ? 1 : 0);
			t.aloneIn += inside(a[i]!);
			t.jointIn += inside(j[i]!);
			const last = calibrations.filter((c) => c.at <= r.at).at(-1);
			if (last?.kind === 'check' && r.at - last.at < 2 * DAY) {
				t.afterCheck++;
				t.afterCheckIn += inside(j[i]!);
			}
			if (r.at > (calibrations.at(-1)?.at ?? Number.NEGATIVE_INFINITY)) {
				t.forward++;
				t.forwardIn += inside(j[i]!);
			}
		}
		t.probeYears += fleet.days / 365;
	}
	watch(fleet, t);
}

/** What a grower is told day by day: only what was known then, each day a site of its own. */
function watch(fleet: Fleet, t: Tally): void {
	const { quantity } = fleet;
	const leave = THRESHOLDS[quantity].leaveAlone;
	const limit = quantity === 'ph' ? 0.1 : 3;
	const sightings = sightingsOf(fleet);
	const pairs = pairsOf(quantity, sightings, () => false);
	if (pairs.length === 0) return;
	const start = fleet.readings[0]!.at;
	const warned = new Map<string, boolean>();
	const falseNow = new Map<string, boolean>();
	const open = fleet.hidden.map((h) => ({ ...h, met: 0, done: false }));
	const readingOf = new Map(fleet.readings.map((r) => [r.id, r]));
	let seen = 0;
	for (let day = 3; day <= fleet.days; day++) {
		const now = start + day * DAY;
		const upTo = pairs.filter((p) => p.at <= now);
		const fresh = upTo.slice(seen);
		seen = upTo.length;
		const then = new SiteErrors(
			quantity,
			probesOf(fleet).map((p) => ({
				...p,
				calibrations: p.calibrations.filter((c) => c.at <= now),
				jumps: p.jumps.filter((j) => j.at <= now),
			})),
			upTo,
		);
		const codes = fleet.probes.filter((p) => p.kind !== 'kit').map((p) => p.code);
		const valueNow = (code: string) => fleet.readings.findLast((r) => r.probe === code && r.at <= now);
		const toldNow = new Set(
			codes.filter((code) => isTold(errorBelief(quantity, then.of(code)!, now, valueNow(code)?.value ?? 6), leave)),
		);
		const apartPairs = apartToday(quantity, then, codes, now, toldNow);
		const apart = (a: string, b: string): number =>
			Math.sign(apartPairs.find((p) => p.a === a && p.b === b)?.by ?? 0) -
			Math.sign(apartPairs.find((p) => p.a === b && p.b === a)?.by ?? 0);
		const apartNow = (code: string) => codes.find((o) => o !== code && apart(code, o) !== 0);
		for (const [i, a] of codes.entries())
			for (const b of codes.slice(i + 1)) {
				const sign = apart(a, b);
				const [ra, rb] = [valueNow(a), valueNow(b)];
				if (!ra || !rb) continue;
				const k = (r: typeof ra) => (quantity === 'ph' ? 1 : 100 / r.truth);
				const truly = k(ra) * fleet.errorAt(a, now, ra.truth) - k(rb) * fleet.errorAt(b, now, rb.truth);
				const wrong = sign !== 0 && (Math.abs(truly) < limit / 2 || Math.sign(truly) !== sign);
				const key = `${a} ${b}`;
				if (wrong && !falseNow.get(key)) t.falseApart++;
				falseNow.set(key, wrong);
			}
		for (const p of fleet.probes) {
			if (p.kind === 'kit') continue;
			const lastReading = fleet.readings.findLast((r) => r.probe === p.code && r.at <= now);
			if (!lastReading) continue;
			const value = lastReading.value;
			const belief = errorBelief(quantity, then.of(p.code)!, now, value);
			const told = isTold(belief, leave);
			const truth = fleet.errorAt(p.code, lastReading.at, lastReading.truth);
			const truly = quantity === 'ph' ? truth : (100 * truth) / lastReading.truth;
			// A warning is false where the probe is truly within half of what it is said to be beyond.
			const wrong = told && (Math.abs(truly) < limit / 2 || Math.sign(truly) !== Math.sign(belief.error));
			if (wrong && !falseNow.get(p.code)) t.falseTold++;
			falseNow.set(p.code, wrong);
			warned.set(p.code, told);
			for (const h of open) {
				if (h.probe !== p.code || h.done || h.at > now) continue;
				const visited = fleet.calibrations.some((c) => c.probe === p.code && c.at > h.at && c.at <= now);
				const mine = fresh.filter((x) => x.at >= h.at && (x.a.probe === p.code || x.b.probe === p.code));
				h.met += new Set(mine.map((x) => readingOf.get(x.a.id)!.sample)).size;
				const partner = apartNow(p.code);
				if (!told && partner && Math.abs(truly) > limit) {
					t.hidden++;
					t.apart++;
					if (h.met <= 5) t.apartInFive++;
					h.done = true;
				} else if (told && Math.sign(belief.error) === Math.sign(truly) && Math.abs(truly) > limit) {
					t.hidden++;
					t.told++;
					if (h.met <= 5) t.inFive++;
					h.done = true;
				} else if (visited || Math.abs(truly) < 1.5 * limit)
					h.done = true; // told by a visit, or gone by itself
				else if (h.met > 12) {
					t.hidden++;
					h.done = true;
				}
			}
		}
	}
}

const all = new Map<string, Tally>();
for (const kind of FLEET_KINDS) {
	if (only && !kind.includes(only)) continue;
	for (const quantity of ['ph', 'ec'] as const) {
		if (quantity === 'ec' && kind === 'drop kit beside one pen') continue;
		const t = nothing();
		for (let seed = from; seed <= to; seed++) measure(simulateFleet(kind, quantity, seed), t);
		all.set(`${kind}, ${quantity}`, t);
		const rms = (s: number) => Math.sqrt(s / t.readings).toFixed(3);
		const pct = (a: number, b: number) => (b === 0 ? '–' : ((100 * a) / b).toFixed(1));
		console.log(
			`${`${kind}, ${quantity}`.padEnd(36)} n ${String(t.readings).padStart(6)}  RMS ${rms(t.original)} alone ${rms(t.alone)} joint ${rms(t.joint)} ratio ${Math.sqrt(t.joint / t.alone).toFixed(2)} (every error taken off ${Math.sqrt(t.all / t.allAlone).toFixed(2)}, no curve below ${Math.sqrt(t.floor / t.alone).toFixed(2)})  cover alone ${pct(t.aloneIn, t.readings)} joint ${pct(t.jointIn, t.readings)} check ${pct(t.afterCheckIn, t.afterCheck)} forward ${pct(t.forwardIn, t.forward)}  hidden ${t.hidden} told ${t.told} in five ${t.inFive} apart ${t.apart} in five ${t.apartInFive} false ${(t.falseApart / t.probeYears).toFixed(2)}  false/probe-year ${(t.falseTold / t.probeYears).toFixed(2)}`,
		);
	}
}
