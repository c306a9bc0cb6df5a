import { startOfDay } from '@/core/quantity/time';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { OPEN_DOUBTS, trustLists } from '@/core/trust/trust';
import { listAttachments } from '@/store/attachments';
import { listBatches } from '@/store/batches';
import { listCalibrations } from '@/store/calibrations';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { countReadings, listReadings } from '@/store/readings';
import { decidedInSpan, readInSpan } from '@/store/week';
import { shownReading } from './reading-shown';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const DAY = 86_400_000;
/** So many of each are listed; more are counted. */
const LISTED = 200;

/**
 * A week of the book: what was read, what of it counts, what calibrations put right, what was done and decided, and what is still
 * open.
 * @param first its first day, `yyyy-mm-dd` of the site; the seven days to today unless given
 */
export async function weekOf(db: Db, context: SiteContext, first: string | undefined, now: number) {
	const zone = context.site.timezone;
	const day = first ?? sheetDay(now - 6 * DAY, zone);
	const from = startOfDay(day, zone);
	if (from === null) throw new Refusal('bad-time', [{ path: 'from', message: 'Give the first day as 2026-07-06.' }]);
	// Seven days of the calendar: one of them may be an hour longer.
	const last = new Date(Date.parse(`${day}T00:00Z`) + 7 * DAY).toISOString().slice(0, 10);
	const to = startOfDay(last, zone)!;
	const site = context.site.id;
	const read = await readInSpan(db, site, from, to, trustLists('history'));
	const events = await listEvents(db, site, { from, to, limit: LISTED });
	const batches = await listBatches(db, site, LISTED, { from, to });
	const attached = await listAttachments(db, site, { from, to });
	const decided = await decidedInSpan(db, site, from, to, LISTED);
	const calibrations = (await listCalibrations(db, site)).filter((c) => c.at >= from && c.at < to);
	const open = await listReadings(db, site, { ...OPEN_DOUBTS, from, to, order: 'oldest', limit: LISTED });
	return {
		from,
		to,
		day,
		read: read.map((r) => ({ ...r, inRange: r.ranged ? r.inRange : null })),
		events,
		batches: batches.reverse(),
		attached,
		decided,
		calibrations: calibrations.map(({ id, at, instrument, quantity, kind, points }) => ({
			id,
			at,
			instrument,
			quantity,
			kind,
			points: points.map(({ nominal, asFound, asLeft }) => ({ nominal, asFound, asLeft })),
		})),
		open: open.map(shownReading),
		openInAll: await countReadings(db, site, OPEN_DOUBTS),
	};
}
