import { isDeepStrictEqual } from 'node:util';
import type { z } from 'zod';
import { type instrument, LAST_POSITION, type station, type system } from '@/contract/site';
import { tankShape } from '@/core/quantity/tank-shape';
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
import { anythingBefore, forgetSetupVersions, insertSetupVersion, type SetupVersion } from '@/store/setup-versions';
import { findSite, insertAudit, insertSite, type SiteRow, updateSite, workForFirst } from '@/store/site';
import { writing } from '@/store/writing';
import { shapeProblem } from '@/words/en/shape';
import { changed } from './changed';
import { intervalChoice } from './probes';
import { Refusal } from './refusal';
import { recomputeAll } from './restate';
import { daysAgain } from './sensors/derived';
import { instrumentInfo, requireSite, type SiteContext } from './site';

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
	change: z.output<typeof system>,
	who: string,
	since: Since = 'now',
): Promise<SystemRow> {
	const before = context.systems.find((s) => s.code === change.code);
	const system = changed<Omit<SystemRow, 'id'>>(
		{ ...PLAIN_SYSTEM, code: change.code, name: change.code, kind: change.kind },
		before,
		change,
	);
	return writing(db, async (client) => {
		const saved = await putSystem(client, context.site.id, system);
		if (before && before.volumeL !== saved.volumeL) {
			const stations = context.stations.filter((s) => s.system === system.code).map((s) => s.id);
			const then = { systemId: saved.id, stationId: null, volumeL: before.volumeL, ranges: null };
			await keepVersion(client, context, then, stations, since);
		}
		await insertAudit(client, context.site.id, who, 'system.saved', system.code, { ...system, since });
		return saved;
	});
}

export async function saveStation(
	db: Db,
	context: SiteContext,
	change: z.output<typeof station>,
	who: string,
	since: Since = 'now',
): Promise<StationRow> {
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
		context.stations.find((s) => s.code === change.code),
		change,
	);
	if (station.system !== null && !context.systems.some((s) => s.code === station.system))
		throw new Refusal('unknown-system', [{ path: 'system', message: `There is no system “${station.system}”.` }]);
	return writing(db, async (client) => {
		const id = await putStation(client, context.site.id, station);
		const before = context.stations.find((s) => s.code === station.code);
		if (before && (before.kind !== station.kind || before.system !== station.system))
			await markDue(client, context.site.id, Number.NEGATIVE_INFINITY);
		if (before && (before.volumeL !== station.volumeL || !isDeepStrictEqual(before.ranges, station.ranges))) {
			const then = { stationId: id, systemId: null, volumeL: before.volumeL, ranges: before.ranges };
			await keepVersion(client, context, then, [id], since);
		}
		await insertAudit(client, context.site.id, who, 'station.saved', station.code, { ...station, since });
		return { ...station, id };
	});
}

/** From when on a change of ranges or of a volume holds: what was judged before stays as it is, or it was always so. */
export type Since = 'now' | 'always';

/** Keeps what something was until now, or has what was read there judged again by what it is. */
async function keepVersion(
	client: Client,
	context: SiteContext,
	then: Omit<SetupVersion, 'until'>,
	stationIds: readonly number[],
	since: Since,
): Promise<void> {
	const siteId = context.site.id;
	if (since === 'always') {
		await forgetSetupVersions(client, siteId, then);
		await markDue(client, siteId, Number.NEGATIVE_INFINITY);
		return;
	}
	const until = Date.now();
	// What nobody has read yet is being set up.
	if (await anythingBefore(client, siteId, stationIds, until))
		await insertSetupVersion(client, siteId, { ...then, until });
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
	change: z.output<typeof instrument>,
	who: string,
): Promise<InstrumentRow> {
	const before = context.instruments.find((i) => i.code === change.code);
	const instrument = changed<Omit<InstrumentRow, 'id'>>(
		{ ...PLAIN_INSTRUMENT, code: change.code, name: change.code, kind: change.kind, quantities: {} },
		before,
		change,
	);
	return writing(db, async (client) => {
		const id = await putInstrument(client, context.site.id, instrument);
		await insertAudit(client, context.site.id, who, 'instrument.saved', instrument.code, instrument);
		const saved = { ...instrument, id };
		// A scale or a compensation known better now re-reads the past.
		if (
			before &&
			(!isDeepStrictEqual(instrumentInfo(before), instrumentInfo(saved)) ||
				!isDeepStrictEqual(intervalChoice(before), intervalChoice(saved)))
		)
			await markDue(client, context.site.id, Number.NEGATIVE_INFINITY);
		if (
			before &&
			(before.ppmScale !== saved.ppmScale ||
				before.compensates !== saved.compensates ||
				before.alphaPct !== saved.alphaPct)
		)
			await recomputeAll(client, await requireSite(client));
		return saved;
	});
}
