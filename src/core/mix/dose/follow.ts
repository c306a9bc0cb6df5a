import { bufferAt, heldAt, type Medium } from '../../chem/solution';
import { type Nodes, normalise, quantile, quantiles, redrawWhereFew } from './belief';
import type { Filling, Happening } from './fillings';
import { type Misses, wideningOf } from './foretold';
import { otherOf, type Passage, pass, passUnread, type WeakAcids } from './passage';
import type { PhRead } from './record';

/** What a dose did, against what was expected of it then. */
export interface DoseSeen {
	at: number;
	/** Acid positive, meq/L by the label; several poured between two readings together. */
	meqL: number;
	phBefore: number;
	phAfter: number;
	/** The readings it was seen by; null where they were only said. */
	idBefore: number | null;
	idAfter: number | null;
	/** 95 % interval that was expected. */
	low: number;
	high: number;
	expected: number;
	answered: 'as expected' | 'stronger' | 'weaker' | 'wrong way';
	product: string;
	/** How many were poured before anybody read: only one that was read by itself shows what a dose of its size does. */
	poured: number;
	/** As poured, in all, and into so many litres. */
	ml: number;
	litres: number;
	otherInstrument: boolean;
}
export interface Followed {
	nodes: Nodes;
	/** At the newest usable reading; null where there was none. */
	last: PhRead | null;
	weak: WeakAcids;
	doses: DoseSeen[];
	/** Doses that no usable reading has answered yet. */
	unanswered: Happening[];
	/** Doses whose only reading came before they could have mixed. */
	tooEarly: number;
	/** Of this filling and those before it. */
	misses: Misses;
}

/** Standard uncertainty of the difference of two readings of one kept pen, each; and of two pens checked within weeks. */
export const U_PH = 0.025;

/** Of one reading, 68 %: as its display and the misses of those before it show. */
export const noiseSeen = (f: Pick<Followed, 'last' | 'misses'>): number =>
	wideningOf(f.misses) * Math.max(f.last?.noise ?? 0, U_PH);
const U_OTHER_PH = 0.15;
/** A cylinder, what the curve leaves out, and what has not mixed yet, as shares of a dose. */
export const U_DOSE = Math.hypot(0.04, 0.06, 0.06);
/** How what roots do changes with the hour of the day, meq/L an hour. */
const U_UPTAKE_MEQ_L_HOUR = 0.003;
/** Of the carbon dioxide that is reckoned to have left, as a share. */
const U_LOST = 0.2;
const U_LEAST_MEQ_L = 0.005;
/** One miss beyond this many standard deviations says no more than at it: a wrong note must not rule out everything. */
const MOST_Z = 4;
/** Longer than this between two readings nothing is learned from them. */
const LONGEST_H = 48;
/** Readings nearer than this to one another tell nothing new while nothing is done. */
const THIN_MS = 1.5 * 3_600_000;
/** A pH that moved by so much within so long of a reading, with nothing noted until so soon after it. */
const MOVED = 0.05;
const SOON_MS = 3_600_000;
const NOTED_LATE_MS = 5 * 60_000;
const U_ALKALINITY = { share: 0.1, meqL: 0.12 };

/** Goes through a filling: every stretch between two readings multiplies the weights by how well each possible tank explains it. */
export function followFilling(nodes: Nodes, f: Filling, mixMs: number, m: Medium, before: Misses = []): Followed {
	const { usable, early } = usableReadings(f, mixMs);
	const out: Followed = {
		nodes,
		last: null,
		weak: {},
		doses: [],
		unanswered: [],
		tooEarly: early,
		misses: [...before],
	};
	for (const r of usable) {
		if (out.last === null) {
			if (f.filledAt !== null) passUnread(nodes, (r.at - f.filledAt) / 3_600_000, r.value, m);
			// What was given before anything was read has left its phosphate and its weak acid.
			for (const h of f.happenings)
				if (h.at < r.at && h.does === 'dose')
					for (let i = 0; i < nodes.size; i++) nodes.phosphate[i]! += h.given.phosphateMmolL;
		} else {
			const hours = (r.at - out.last.at) / 3_600_000;
			const between = f.happenings.filter((h) => h.at >= out.last!.at && h.at < r.at);
			if (hours > LONGEST_H) {
				// What roots did in so long a time drowns everything else: only how much carbon dioxide is left is known.
				passUnread(nodes, hours, r.value, m);
				out.last = r;
				continue;
			}
			const passage = pass(nodes, { at: out.last.at, ph: out.last.value }, r.at, between, out.weak, m);
			out.weak = passage.weak;
			if (!passage.unknown) learn(out, passage, out.last, r, between, m);
		}
		learnAlkalinity(nodes, f, out.last?.at ?? Number.NEGATIVE_INFINITY, r, m);
		out.last = r;
	}
	const lastAt = out.last?.at ?? Number.NEGATIVE_INFINITY;
	out.unanswered = f.happenings.filter((h) => h.does === 'dose' && h.at >= lastAt);
	return out;
}

/** Not what was read before a dose could have mixed; of a run of readings with nothing done the first, some, and the last. */
function usableReadings(f: Filling, mixMs: number): { usable: PhRead[]; early: number } {
	const poured = f.happenings.filter((h) => h.does !== 'nothing').map((h) => h.at);
	const mixed = f.readings.filter((r) => !poured.some((p) => p < r.at && r.at - p < mixMs));
	const early = f.happenings.filter(
		(h, i) =>
			h.does === 'dose' &&
			f.readings.some((r) => r.at > h.at && r.at - h.at < mixMs) &&
			!mixed.some((r) => r.at > h.at && r.at <= (f.happenings[i + 1]?.at ?? Number.POSITIVE_INFINITY)),
	).length;
	const usable: PhRead[] = [];
	const acts = (a: number, b: number) => poured.some((p) => p >= a && p < b);
	for (const [i, r] of mixed.entries()) {
		const next = mixed[i + 1];
		const before = usable.at(-1);
		// Noted a little late, a dose seems to have followed the reading that it has already moved.
		const moved = before && Math.abs(r.value - before.value) > MOVED && r.at - before.at <= SOON_MS;
		if (moved && !acts(before.at, r.at) && poured.some((p) => p >= r.at && p - r.at <= NOTED_LATE_MS)) continue;
		if (!before || !next || acts(before.at, r.at) || acts(r.at, next.at) || r.at - before.at >= THIN_MS) usable.push(r);
	}
	return { usable, early };
}

function learn(out: Followed, p: Passage, from: PhRead, to: PhRead, between: readonly Happening[], m: Medium): void {
	const { nodes } = out;
	const otherInstrument = (from.by ?? null) !== (to.by ?? null);
	const wider = wideningOf(out.misses);
	const noiseOf = (r: PhRead) => wider * (otherInstrument ? U_OTHER_PH : Math.max(r.noise ?? 0, U_PH));
	const [uFrom, uTo] = [noiseOf(from), noiseOf(to)];
	const other = otherOf(p.weak);
	const noise = new Float64Array(nodes.size);
	const width = new Float64Array(nodes.size);
	for (let i = 0; i < nodes.size; i++) {
		if (Number.isNaN(p.held[i]!)) continue;
		const [c, ph] = [nodes.carbon[i]!, nodes.phosphate[i]!];
		const before = bufferAt(from.value, c, ph, m);
		const after = bufferAt(to.value, c, ph, m);
		noise[i] = Math.hypot(
			U_DOSE * p.dosedMeqL,
			uFrom * before,
			uTo * after,
			U_UPTAKE_MEQ_L_HOUR * p.hours,
			U_LOST * Math.abs(p.lost[i]!),
			p.uAddedMeqL,
			U_LEAST_MEQ_L,
		);
		width[i] = Math.hypot(noise[i]! / bufferAt(p.ph[i]!, c, ph, m), 0.01);
	}
	const usual = quantile(width, nodes.weight, 0.5);
	const [near, expected, far] = quantiles(p.ph, nodes.weight, [0.025, 0.5, 0.975]) as [number, number, number];
	out.misses.push((wider * (to.value - expected)) / Math.hypot(usual, (far - near) / 4));
	const dosed = between.filter((h) => h.does === 'dose');
	const forecast = { low: near - 2 * usual, expected, high: far + 2 * usual };
	const seen = dosed.length > 0 ? doseSeen(forecast, from, to, dosed, otherInstrument) : null;
	if (seen) out.doses.push(seen);
	// An answer that nothing explains teaches nothing.
	if (seen?.answered === 'wrong way') return;
	for (let i = 0; i < nodes.size; i++) {
		if (Number.isNaN(p.held[i]!)) {
			nodes.weight[i] = 0;
			continue;
		}
		const miss =
			p.held[i]! - heldAt(to.value, nodes.carbon[i]!, nodes.phosphate[i]!, m) - (other ? other(to.value) : 0);
		const z = Math.min(Math.abs(miss) / noise[i]!, MOST_Z);
		// The likelihood of the pH that was read: the miss in equivalents over how far each pH is from the next.
		const buffer = bufferAt(to.value, nodes.carbon[i]!, nodes.phosphate[i]!, m);
		nodes.weight[i]! *= (Math.exp((-z * z) / 2) * buffer) / noise[i]!;
	}
	normalise(nodes);
	redrawWhereFew(nodes);
}

/** A pH moves by so much without a reason. */
const WANDERS = 0.05;

function doseSeen(
	{ low, expected, high }: Pick<DoseSeen, 'low' | 'expected' | 'high'>,
	from: PhRead,
	to: PhRead,
	dosed: readonly Happening[],
	otherInstrument: boolean,
): DoseSeen {
	const meqL = dosed.reduce((sum, h) => sum + (h.does === 'dose' ? h.given.meqL : 0), 0);
	const direction = meqL > 0 ? -1 : 1;
	const moved = (to.value - from.value) * direction;
	const short = direction < 0 ? to.value > high : to.value < low;
	const beyond = direction < 0 ? to.value < low : to.value > high;
	return {
		at: dosed[0]!.at,
		meqL,
		phBefore: from.value,
		phAfter: to.value,
		idBefore: from.id ?? null,
		idAfter: to.id ?? null,
		low,
		high,
		expected,
		answered: short && moved < -WANDERS ? 'wrong way' : short ? 'weaker' : beyond ? 'stronger' : 'as expected',
		product: dosed[0]!.does === 'dose' ? dosed[0]!.given.product : '',
		poured: dosed.length,
		ml: dosed.reduce((sum, h) => sum + (h.event.kind === 'dosed' ? h.event.ml : 0), 0),
		litres: dosed[0]!.does === 'dose' ? dosed[0]!.litres : 0,
		otherInstrument,
	};
}

/** A drop kit counts the acid to about pH 4.5. */
const KIT_ENDS_PH = 4.5;

function learnAlkalinity(nodes: Nodes, f: Filling, after: number, r: PhRead, m: Medium): void {
	for (const a of f.alkalinity.filter((x) => x.at > after && x.at <= r.at)) {
		const u = Math.hypot(U_ALKALINITY.share * a.meqL, U_ALKALINITY.meqL);
		for (let i = 0; i < nodes.size; i++) {
			const [c, ph] = [nodes.carbon[i]!, nodes.phosphate[i]!];
			const z = Math.min(Math.abs(heldAt(r.value, c, ph, m) - heldAt(KIT_ENDS_PH, c, ph, m) - a.meqL) / u, MOST_Z);
			nodes.weight[i]! *= Math.exp((-z * z) / 2);
		}
		normalise(nodes);
	}
}
