import type { Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { ofSiteHere } from '../data/site-here';
import { usualInstrument } from '../entry/InstrumentChoice';

/** What a person has typed at Bench and not yet saved. */
export type Texts = Partial<Record<Quantity, string>>;
export interface Draft {
	station: string;
	instrument: string | null;
	texts: Texts;
	/** Further dips of the same water: another instrument, the same again, a drop kit. */
	others: { instrument: string; texts: Texts }[];
	note: string;
	/** When it was measured, as typed; empty for now. */
	when: string;
	/** What was asked for beside what is measured here by its rhythm. */
	more: Quantity[];
	/** What those are measured with, where it was chosen. */
	by: Partial<Record<Quantity, string>>;
}

const KEPT = 'cordwain.bench';

export const keepDraft = (draft: Draft): void => localStorage.setItem(ofSiteHere(KEPT), JSON.stringify(draft));
export const dropDraft = (): void => localStorage.removeItem(ofSiteHere(KEPT));

/** The draft that was left on this device, if it still makes sense here. */
export function keptDraft(site: SiteView): Draft | null {
	try {
		const kept = JSON.parse(localStorage.getItem(ofSiteHere(KEPT)) ?? 'null') as Partial<Draft> | null;
		if (!kept?.texts || !site.stations.some((s) => s.info.code === kept.station)) return null;
		return {
			station: kept.station!,
			instrument: kept.instrument ?? null,
			texts: kept.texts,
			others: Array.isArray(kept.others) ? kept.others : [],
			note: kept.note ?? '',
			when: kept.when ?? '',
			more: Array.isArray(kept.more) ? kept.more : [],
			by: kept.by ?? {},
		};
	} catch {
		dropDraft();
		return null;
	}
}

export const typedSomething = (d: Draft): boolean =>
	Object.values(d.texts).some((t) => t) || d.note !== '' || d.when !== '' || d.others.length > 0;

export const emptyDraft = (site: SiteView, station: string): Draft => ({
	station,
	instrument: usualInstrument(site, station, null),
	texts: {},
	others: [],
	note: '',
	when: '',
	more: [],
	by: {},
});

export const lastSeen = (site: SiteView, station: string): number | null => {
	const times = site.stations.find((s) => s.info.code === station)?.seen.map((s) => s.at) ?? [];
	return times.length === 0 ? null : Math.max(...times);
};
