import type { ChangeMade } from '@/contract/meters';
import type { Entered } from '@/service/enter';

/** What was entered just now at a site, kept for its pages, so that two people at one station see each other. */
const KEEP = 300;
const recents = new Map<number, ChangeMade[]>();
let last = 0;
export type Announced = Omit<ChangeMade, 'seq'>;

/** @param siteId null: there is none yet, and nobody who looks at it */
export function announce(siteId: number | null, change: Announced): void {
	if (siteId === null) return;
	const recent = recents.get(siteId) ?? [];
	recents.set(siteId, recent);
	// Nodes send every second: of each station the newest says it all, and what people enter is not pushed out.
	if (change.kind === 'sensors' || change.kind === 'watch') {
		const before = recent.findIndex((c) => c.kind === change.kind && c.station === change.station);
		if (before >= 0) recent.splice(before, 1);
	}
	recent.push({ ...change, seq: ++last });
	if (recent.length > KEEP) recent.splice(0, recent.length - KEEP);
}

/** The changes after one that was seen; a number from before this server's start gives none, and the number to go on from. */
export const changesAfter = (siteId: number | null, seq: number): { last: number; changes: ChangeMade[] } => ({
	last,
	changes: seq < 0 || seq > last ? [] : (recents.get(siteId ?? -1) ?? []).filter((c) => c.seq > seq),
});

/** A sample that was entered, for the pages that show its station. @param by names the page that entered it */
export const sampleEntered = (s: Entered, by: string): Announced => ({
	kind: 'readings',
	station: s.readings[0]?.reading.station ?? null,
	by,
	readings: s.readings.map(({ reading: r, verdict: v }) => ({
		at: r.at,
		quantity: r.quantity,
		value: r.digits,
		unit: r.unit,
		instrument: r.instrument || null,
		flag: v.flag,
	})),
});
