import { isDeepStrictEqual } from 'node:util';
import {
	type ChangeOfInstrument,
	type ChangeOfStation,
	type ChangeOfSystem,
	INSTRUMENT_NAMES,
	LAST_POSITION,
} from '@/contract/site';
import { tankShape } from '@/core/quantity/tank-shape';
import { formatTime } from '@/core/quantity/time';
import { markDue } from '@/store/judging';
import {
	type InstrumentRow,
	orderStations,
	PLAIN_INSTRUMENT,
	PLAIN_STATION,
	PLAIN_SYSTEM,
	putInstrument,
	putStation,
	putSystem,
	type StationRow,
	type SystemRow,
} from '@/store/line';
import type { Client, Db } from '@/store/pool';
import {
	anythingBefore,
	endSetupVersions,
	forgetSetupVersions,
	type InstrumentWas,
	insertSetupVersion,
	type SetupVersion,
} from '@/store/setup-versions';
import { findSite, insertAudit, insertSite, type SiteRow, updateSite, workForFirst } from '@/store/site';
import { writing } from '@/store/writing';
import { shapeProblem } from '@/words/en/shape';
import { changed } from './changed';
import { Refusal } from './refusal';
import { recomputeAll } from './restate';
import { requireSeen } from './seen';
import { daysAgain } from './sensors/derived';
import { requireSite, type SiteContext } from './site';

/** The settings that the checks go by. */
const judgedBy = (s: SiteRow['settings']) => [s.sensitivity ?? 'usual', s.waits ?? null];

/** Makes the site or changes it; settings that are not given stay as they are. */
export async function saveSite(
	db: Db,
	change: Omit<SiteRow, 'id' | 'settings' | 'units'> & {
		units?: SiteRow['units'] | undefined;
		settings?: SiteRow['settings'] | undefined;
	},
	who: string,
): Promise<SiteRow> {
	return writing(db, async (client) => {
		const before = (await findSite(client)) ?? (await workForFirst(client));
		const site = { ...change, units: change.units ?? {}, settings: { ...before?.settings, ...change.settings } };
		const after = before ? { ...site, id: before.id } : await insertSite(client, site);
		if (before) await updateSite(client, after);
		if (before && before.timezone !== site.timezone) await daysAgain(client, after.id, site.timezone);
		if (before && !isDeepStrictEqual(judgedBy(before.settings), judgedBy(site.settings)))
			await markDue(client, after.id, Number.NEGATIVE_INFINITY);
		await insertAudit(client, after.id, who, before ? 'site.changed' : 'site.made', site.name, { before, after: site });
		return after;
	});
}

export async function saveSystem(
	db: Db,
	context: SiteContext,
	{ seen, ...change }: ChangeOfSystem,
	who: string,
	since: Since = 'now',
): Promise<SystemRow> {
	requirePast(since);
	const before = context.systems.find((s) => s.code === change.code);
	requireSeen(before, seen, before?.name ?? change.code);
	const system = changed<Omit<SystemRow, 'id'>>(
		{ ...PLAIN_SYSTEM, code: change.code, name: change.code, kind: change.kind },
		before,
		change,
	);
	return writing(db, async (client) => {
		const saved = await putSystem(client, context.site.id, system);
		const recalled = recalls(
			since,
			context.versions.filter((v) => v.systemId === saved.id),
		);
		if (before && (recalled || before.volumeL !== saved.volumeL)) {
			// Stations that are of it, or ever were.
			const stations = context.stations.flatMap((s) =>
				s.system === system.code || context.versions.some((v) => v.stationId === s.id && v.ofSystemId === saved.id)
					? [s.id]
					: [],
			);
			const then = { ...NOTHING_WAS, systemId: saved.id, volumeL: before.volumeL };
			await keepVersion(client, context, then, { stationIds: stations }, since);
		}
		await insertAudit(client, context.site.id, who, 'system.saved', system.code, {
			...system,
			since: sinceSaid(since),
		});
		return saved;
	});
}

export async function saveStation(
	db: Db,
	context: SiteContext,
	{ seen, ...change }: ChangeOfStation,
	who: string,
	since: Since = 'now',
): Promise<StationRow> {
	requirePast(since);
	const before = context.stations.find((s) => s.code === change.code);
	requireSeen(before, seen, before?.name ?? change.code);
	if (change.shape?.trim()) {
		const shape = tankShape(change.shape);
		if (!shape.ok) throw new Refusal('bad-shape', [{ path: 'shape', message: shapeProblem(shape.problem) }]);
	}
	const station = changed<Omit<StationRow, 'id'>>(
		{
			...PLAIN_STATION,
			fedBy: [],
			code: change.code,
			name: change.code,
			kind: change.kind,
			position: Math.min(1 + Math.max(0, ...context.stations.map((s) => s.position)), LAST_POSITION),
		},
		before,
		change,
	);
	if (station.leastPh !== null && station.mostPh !== null && station.leastPh >= station.mostPh)
		throw new Refusal('invalid', [{ path: 'least_ph', message: 'must lie below the highest pH' }]);
	if (station.system !== null && !context.systems.some((s) => s.code === station.system))
		throw new Refusal('unknown-system', [{ path: 'system', message: `There is no system “${station.system}”.` }]);
	return writing(db, async (client) => {
		const id = await putStation(client, context.site.id, station);
		const judged = ({ kind, system, volumeL, ranges }: typeof station) => ({ kind, system, volumeL, ranges });
		const recalled = recalls(
			since,
			context.versions.filter((v) => v.stationId === id),
		);
		if (before && (recalled || !isDeepStrictEqual(judged(before), judged(station)))) {
			const { kind, volumeL, ranges } = before;
			const ofSystemId = context.systems.find((y) => y.code === before.system)?.id ?? null;
			const then = { ...NOTHING_WAS, stationId: id, volumeL, ranges, kind, ofSystemId };
			await keepVersion(client, context, then, { stationIds: [id] }, since);
		}
		await insertAudit(client, context.site.id, who, 'station.saved', station.code, {
			...station,
			since: sinceSaid(since),
		});
		return { ...station, id };
	});
}

/**
 * From when on a change holds: what was judged before stays as it is; or from a time that is past (ms since 1970, UTC), and what was read
 * since is judged again; or it was always so. The last two can be said of an earlier change too.
 */
export type Since = 'now' | 'always' | number;

/** @throws Refusal of a time that is still to come */
function requirePast(since: Since): void {
	if (typeof since === 'number' && since > Date.now())
		throw new Refusal('invalid', [
			{ path: 'since', message: 'lies ahead: say “now”, or when it was; what is to come is said when it has come' },
		]);
}

/** As the record has it. */
const sinceSaid = (since: Since): string => (typeof since === 'number' ? formatTime(since) : since);

/** Whether it is said of a change that was saved already. */
const recalls = (since: Since, versions: readonly SetupVersion[]): boolean =>
	since !== 'now' && versions.some((v) => since === 'always' || v.until > since);

const NOTHING_WAS = {
	stationId: null,
	systemId: null,
	instrumentId: null,
	volumeL: null,
	ranges: null,
	kind: null,
	ofSystemId: null,
	instrument: null,
};

/** Keeps what something was until it was changed, and has what was read there since judged again by what it is. */
async function keepVersion(
	client: Client,
	context: SiteContext,
	then: Omit<SetupVersion, 'until'>,
	of: { stationIds?: readonly number[]; instrumentId?: number },
	since: Since,
): Promise<void> {
	const siteId = context.site.id;
	if (since === 'always') await forgetSetupVersions(client, siteId, then);
	if (since !== 'now') await markDue(client, siteId, since === 'always' ? Number.NEGATIVE_INFINITY : since);
	if (since === 'always' || (since !== 'now' && (await endSetupVersions(client, siteId, then, since)))) return;
	const until = since === 'now' ? Date.now() : since;
	// What nobody has read yet is being set up.
	if (await anythingBefore(client, siteId, of, until)) await insertSetupVersion(client, siteId, { ...then, until });
}

/** The order in which the water runs, as a whole. */
export async function saveOrder(db: Db, context: SiteContext, codes: readonly string[], who: string): Promise<void> {
	const known = new Set(context.stations.map((s) => s.code));
	const unknown = codes.findIndex((c) => !known.has(c));
	const missing = context.inUse.stations.find((s) => !codes.includes(s.code));
	if (unknown >= 0 || missing || new Set(codes).size !== codes.length)
		throw new Refusal('unknown-station', [
			{
				path: unknown >= 0 ? `codes.${unknown}` : 'codes',
				message: missing
					? `${missing.name} is missing: name every station once. Was it added meanwhile? Load the page again.`
					: unknown >= 0
						? `There is no station “${codes[unknown]}”.`
						: 'Name every station once.',
			},
		]);
	await writing(db, async (client) => {
		await orderStations(client, context.site.id, codes);
		await insertAudit(client, context.site.id, who, 'stations.ordered', codes.join(' '), {});
	});
}

export async function saveInstrument(
	db: Db,
	context: SiteContext,
	{ seen, ...change }: ChangeOfInstrument,
	who: string,
	since: Since = 'now',
): Promise<InstrumentRow> {
	requirePast(since);
	const before = context.instruments.find((i) => i.code === change.code);
	requireSeen(before, seen, before?.name ?? change.code, INSTRUMENT_NAMES);
	const instrument = changed<Omit<InstrumentRow, 'id'>>(
		{ ...PLAIN_INSTRUMENT, code: change.code, name: change.code, kind: change.kind, quantities: {} },
		before,
		change,
	);
	return writing(db, async (client) => {
		const id = await putInstrument(client, context.site.id, instrument);
		await insertAudit(client, context.site.id, who, 'instrument.saved', instrument.code, {
			...instrument,
			since: sinceSaid(since),
		});
		const saved = { ...instrument, id };
		if (!before) return saved;
		// A scale that nobody had named was always the one that is named now.
		const named = before.ppmScale === null && saved.ppmScale !== null;
		const was = named ? { ...wasOf(before), ppmScale: saved.ppmScale } : wasOf(before);
		const recalled = recalls(
			since,
			context.versions.filter((v) => v.instrumentId === id),
		);
		if (recalled || !isDeepStrictEqual(was, wasOf(saved)))
			await keepVersion(
				client,
				context,
				{ ...NOTHING_WAS, instrumentId: id, instrument: was },
				{ instrumentId: id },
				since,
			);
		if (named) await markDue(client, context.site.id, Number.NEGATIVE_INFINITY);
		const differently =
			before.ppmScale !== saved.ppmScale ||
			before.compensates !== saved.compensates ||
			before.alphaPct !== saved.alphaPct;
		if (named || recalled || (since !== 'now' && differently)) await recomputeAll(client, await requireSite(client));
		return saved;
	});
}

/** What readings of an instrument are understood and judged by. */
const wasOf = (i: InstrumentRow): InstrumentWas => ({
	quantities: i.quantities,
	perDrop: i.perDrop,
	ppmScale: i.ppmScale,
	compensates: i.compensates,
	alphaPct: i.alphaPct,
	continuous: i.continuous,
	calibrateBy: i.calibrateBy,
	makerDays: i.makerDays,
});
