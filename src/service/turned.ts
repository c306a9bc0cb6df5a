import { stationThen } from '@/core/judge/context';
import { type DoseEvent, type TurnedDecision, turnedDecisions } from '@/core/probe/turned';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import type { JudgedReading } from '@/store/readings';
import type { SiteContext } from './site';

const DOSES = ['acid_added', 'base_added', 'nutrient_added', 'water_added'] as const;
const MOST = 100_000;

/** When each of some readings, the oldest first, was followed by another at its station; absent where it was not. */
function followed(readings: readonly JudgedReading[]): Map<number, number> {
	const nextAt = new Map<number, number>();
	const later = new Map<string, { at: number; next: number | undefined }>();
	for (const r of [...readings].reverse()) {
		const after = later.get(r.station);
		// What was read at the same moment follows nothing of it.
		const next = after && after.at === r.at ? after.next : after?.at;
		if (next !== undefined) nextAt.set(r.id, next);
		later.set(r.station, { at: r.at, next });
	}
	return nextAt;
}

/**
 * The decisions that the touched readings of a probe would have turned, had they been known as they are restated.
 * @param readings all of that probe, the oldest first
 */
export async function turnedBy(
	db: Db,
	context: SiteContext,
	quantity: 'ph' | 'ec',
	readings: readonly JudgedReading[],
	touched: readonly JudgedReading[],
): Promise<TurnedDecision[]> {
	if (touched.length === 0) return [];
	const events = await listEvents(db, context.site.id, { from: touched[0]!.at, kinds: DOSES, limit: MOST });
	const doses: DoseEvent[] = events.map((e) => ({
		at: e.at,
		station: e.station,
		kind: e.kind,
		words: `${e.kind.replace('_', ' ')}${e.amountText ? ` ${e.amountText} ${e.unitText}` : ''}`,
	}));
	const nextAt = followed(readings);
	return turnedDecisions(
		touched.map((r) => ({
			id: r.id,
			at: r.at,
			station: r.station,
			value: r.value,
			restated: r.restated!,
			// By what was wanted then.
			range: stationThen(context.known, r.station, r.at).ranges[quantity] ?? null,
			nextAt: nextAt.get(r.id) ?? null,
		})),
		doses,
	);
}
