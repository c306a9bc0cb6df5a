import { getPosition, getTimes } from 'suncalc';

/** Degrees north of the equator, and east of Greenwich. */
export interface Place {
	latitude: number;
	longitude: number;
}
export type Stretch = [from: number, to: number];
const DAY = 86_400_000;

/**
 * Stretches without light within a span: between lamps off and lamps on where somebody noted them in it, else between sunset and sunrise
 * where it is known where that is (the upper limb at the horizon, refraction and all, to within a minute or two of an almanac between
 * the polar circles). Times are ms since 1970, UTC.
 * @param lamps when they were put on or off
 * @param place null where nobody said it
 * @example nights([{ at: 10, on: false }, { at: 20, on: true }], null, 0, 30) // [[10, 20]]
 */
export function nights(
	lamps: readonly { at: number; on: boolean }[],
	place: Place | null,
	from: number,
	to: number,
): Stretch[] {
	const noted = lamps.filter((l) => l.at >= from && l.at <= to).sort((a, b) => a.at - b.at);
	return noted.length > 0 ? withoutLamps(noted, from, to) : place ? withoutSun(place, from, to) : [];
}

function withoutLamps(lamps: readonly { at: number; on: boolean }[], from: number, to: number): Stretch[] {
	const all: Stretch[] = [];
	let dark: number | null = lamps[0]!.on ? from : null;
	for (const l of lamps) {
		if (!l.on) dark ??= l.at;
		else if (dark !== null) {
			all.push([dark, l.at]);
			dark = null;
		}
	}
	if (dark !== null) all.push([dark, to]);
	return all;
}

function withoutSun({ latitude, longitude }: Place, from: number, to: number): Stretch[] {
	const turns: { at: number; on: boolean }[] = [];
	for (let day = from - DAY; day <= to + DAY; day += DAY) {
		const { sunrise, sunset } = getTimes(new Date(day), latitude, longitude);
		if (sunrise) turns.push({ at: sunrise.getTime(), on: true });
		if (sunset) turns.push({ at: sunset.getTime(), on: false });
	}
	const within = turns.filter((t) => t.at > from && t.at < to).sort((a, b) => a.at - b.at);
	if (within.length > 0) return withoutLamps(within, from, to);
	// Neither rises nor sets: a short span, or a polar summer or winter.
	return getPosition(new Date((from + to) / 2), latitude, longitude).altitude < 0 ? [[from, to]] : [];
}
