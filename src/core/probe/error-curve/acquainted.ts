import { within } from '../../series/search';
import type { Pair } from './pairs';
import type { Stretch } from './stretch';

/** Probes that met one another, directly or by others, with all their pairs; numbered by their place in the whole list. */
export interface Acquainted {
	codes: string[];
	pairs: { pair: Pair; id: number }[];
}

/** Groups of probes that never met across groups. */
export function acquainted(codes: readonly string[], pairs: readonly Pair[]): Acquainted[] {
	const known = new Set(codes);
	const parent = new Map<string, string>();
	const root = (code: string): string => {
		let at = code;
		while (parent.has(at)) at = parent.get(at)!;
		return at;
	};
	for (const { a, b } of pairs) {
		if (!known.has(a.probe) || !known.has(b.probe)) continue;
		const [x, y] = [root(a.probe), root(b.probe)];
		if (x !== y) parent.set(x, y);
	}
	const groups = new Map<string, Acquainted>();
	for (const code of codes) {
		const key = root(code);
		const group = groups.get(key) ?? { codes: [], pairs: [] };
		group.codes.push(code);
		groups.set(key, group);
	}
	for (const [id, pair] of pairs.entries())
		if (known.has(pair.a.probe) && known.has(pair.b.probe)) groups.get(root(pair.a.probe))!.pairs.push({ pair, id });
	return [...groups.values()];
}

/** Mean of what a probe showed in its pairs of a stretch. */
export function usualValue(pairs: Acquainted['pairs'], code: string, stretch: Stretch): number | null {
	let sum = 0;
	let n = 0;
	for (const { pair } of within(pairs, stretch.from, stretch.to, (p) => p.pair.at)) {
		if (pair.a.probe === code) sum += pair.a.value;
		else if (pair.b.probe === code) sum += pair.b.value;
		else continue;
		n++;
	}
	return n > 0 ? sum / n : null;
}
