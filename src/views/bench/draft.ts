import type { Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';

/** What a person has typed at Bench and not yet saved. */
export type Texts = Partial<Record<Quantity, string>>;
export interface Draft {
	station: string;
	instrument: string | null;
	texts: Texts;
	/** Further dips of the same water: another instrument, the same again, a drop kit. */
	others: { instrument: string; texts: Texts }[];
	note: string;
}

const KEPT = 'cordwain.bench';

export const keepDraft = (draft: Draft): void => localStorage.setItem(KEPT, JSON.stringify(draft));
export const dropDraft = (): void => localStorage.removeItem(KEPT);

/** The draft that was left on this device, if it still makes sense here. */
export function keptDraft(site: SiteView): Draft | null {
	try {
		const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as Partial<Draft> | null;
		if (!kept?.texts || !site.stations.some((s) => s.info.code === kept.station)) return null;
		return {
			station: kept.station!,
			instrument: kept.instrument ?? null,
			texts: kept.texts,
			others: Array.isArray(kept.others) ? kept.others : [],
			note: kept.note ?? '',
		};
	} catch {
		dropDraft();
		return null;
	}
}

export const typedSomething = (d: Draft): boolean =>
	Object.values(d.texts).some((t) => t) || d.note !== '' || d.others.length > 0;

/** The instrument last used at a station, told by what the engine has seen. */
export function lastInstrument(site: SiteView, station: string): string | null {
	let best: { instrument: string; at: number } | null = null;
	for (const [key, trace] of site.engine.traces) {
		const [s, quantity, instrument] = key.split('\u0000');
		if (
			s === station &&
			(quantity === 'ph' || quantity === 'ec' || quantity === 'tds') &&
			instrument &&
			site.instruments.some((i) => i.info.code === instrument && i.kind !== 'sensor_node') &&
			(!best || trace.at > best.at || (trace.at === best.at && quantity === 'ph'))
		)
			best = { instrument, at: trace.at };
	}
	return best?.instrument ?? site.instruments.find((i) => i.kind !== 'sensor_node')?.info.code ?? null;
}

export const emptyDraft = (site: SiteView, station: string): Draft => ({
	station,
	instrument: lastInstrument(site, station),
	texts: {},
	others: [],
	note: '',
});

export const lastSeen = (site: SiteView, station: string): number | null => {
	let newest: number | null = null;
	for (const [key, trace] of site.engine.traces)
		if (key.startsWith(`${station}\u0000`) && (newest === null || trace.at > newest)) newest = trace.at;
	return newest;
};
