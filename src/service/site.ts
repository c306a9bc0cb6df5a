import { type JudgeContext, SENSITIVITY } from '@/core/judge/context';
import type { Quantity } from '@/core/quantity';
import { dropResolution } from '@/core/reading/drops';
import type { InstrumentInfo, StationInfo } from '@/core/reading/model';
import type { Place } from '@/core/series/nights';
import {
	type InstrumentRow,
	listInstruments,
	listStations,
	listSystems,
	type StationRow,
	type SystemRow,
} from '@/store/line';
import { type Db, homeOf } from '@/store/pool';
import { type InstrumentWas, listSetupVersions, type SetupVersion } from '@/store/setup-versions';
import { findSite, insertSite, type StoredSite, workForFirst } from '@/store/site';
import { writing } from '@/store/writing';

/** The site as every use case needs it: its rows, and the same as the checks know them. */
export interface SiteContext {
	site: StoredSite;
	systems: SystemRow[];
	/** Everything that was ever a station here, in the order the water runs. */
	stations: StationRow[];
	/** What stations, systems and instruments were before they were changed. */
	versions: SetupVersion[];
	instruments: InstrumentRow[];
	/** What of it is still used: what lists show. */
	inUse: { stations: StationRow[]; instruments: InstrumentRow[]; systems: SystemRow[] };
	known: JudgeContext;
}

/** Changes with everything that is stored of a site and that something is derived from; used once, even where it was taken back. */
export const versionsOf = ({ site }: Pick<SiteContext, 'site'>, memoryVersion = site.memoryVersion): string =>
	[site.lineVersion, site.probeVersion, memoryVersion].join(' ');

/** Whether neither the line nor the probes changed between two looks at a site. */
export const onlyRemembersMore = (before: SiteContext, after: SiteContext): boolean =>
	versionsOf(before, after.site.memoryVersion) === versionsOf(after);

/** How high a site lies, m; at sea level where nobody said. */
export const altitudeOf = (site: StoredSite): number => site.settings.altitudeM ?? 0;

/** Where a site lies, for the hours of its sun; null where nobody said. */
export function placeOf({ settings: { latitude, longitude } }: StoredSite): Place | null {
	return latitude == null || longitude == null ? null : { latitude, longitude };
}

export class NoSite extends Error {
	constructor() {
		super('There is no site yet. Set one up first.');
	}
}

const rangesOf = (r: StationRow['ranges']): StationInfo['ranges'] =>
	Object.fromEntries(Object.entries(r).map(([q, [low, high]]) => [q, { low, high }]));

/** @param versions what it, and its system, were before they were changed */
export function stationInfo(
	s: StationRow,
	systems: readonly SystemRow[],
	versions: readonly SetupVersion[] = [],
): StationInfo {
	const system = systems.find((y) => y.code === s.system);
	const own = versions.filter((v) => v.stationId === s.id);
	const wasOf = (v: SetupVersion | undefined) =>
		v?.kind == null ? system : systems.find((y) => y.id === v.ofSystemId);
	const ofSystems = [...new Set([system, ...own.map(wasOf)])].flatMap((y) =>
		versions.filter((v) => y && v.systemId === y.id),
	);
	const volumeOf = (own: number | null, whole: number | null | undefined) => own ?? whole ?? null;
	// Whatever was changed divides the time: until then it was what each of them was then.
	const before = [...new Set([...own, ...ofSystems].map((v) => v.until))]
		.sort((a, b) => a - b)
		.map((until) => {
			const version = own.find((v) => v.until >= until);
			const then = version ?? s;
			const of = wasOf(version);
			const whole = ofSystems.find((v) => v.systemId === of?.id && v.until >= until) ?? of;
			return {
				until,
				kind: version?.kind ?? s.kind,
				system: of?.code ?? null,
				volumeL: volumeOf(then.volumeL, whole?.volumeL),
				ranges: rangesOf(then.ranges ?? {}),
			};
		});
	return {
		code: s.code,
		kind: s.kind,
		system: s.system,
		volumeL: volumeOf(s.volumeL, system?.volumeL),
		ranges: rangesOf(s.ranges),
		...(before.length > 0 ? { before } : {}),
	};
}

/** A kit that counts drops is no finer than a drop, unless its leaflet says so. */
const withDrops = ({ quantities, perDrop }: InstrumentWas): InstrumentInfo['quantities'] => {
	const counted = Object.entries(perDrop ?? {}).map(([q, per]) => {
		const width = dropResolution(q as Quantity, per);
		return [q, { ...(width === null ? {} : { resolution: width }), ...quantities[q as Quantity] }];
	});
	return { ...quantities, ...Object.fromEntries(counted) };
};

const readsAs = (i: InstrumentWas) => ({
	quantities: withDrops(i),
	ppmScale: i.ppmScale,
	compensates: i.compensates,
	alphaPctPerC: i.alphaPct,
	continuous: i.continuous,
	...(i.perDrop ? { perDrop: i.perDrop } : {}),
});

/** @param versions what it was before it was changed */
export function instrumentInfo(i: InstrumentRow, versions: readonly SetupVersion[] = []): InstrumentInfo {
	const before = versions.flatMap((v) =>
		v.instrumentId === i.id && v.instrument ? [{ until: v.until, ...readsAs(v.instrument) }] : [],
	);
	return { code: i.code, ...readsAs(i), ...(before.length > 0 ? { before } : {}) };
}

function contextOf(
	site: StoredSite,
	systems: SystemRow[],
	stations: StationRow[],
	versions: SetupVersion[],
	instruments: InstrumentRow[],
): SiteContext {
	return {
		site,
		systems,
		stations,
		versions,
		instruments,
		inUse: {
			stations: stations.filter((s) => !s.retired),
			instruments: instruments.filter((i) => !i.retired),
			systems: systems.filter((s) => !s.retired),
		},
		known: {
			stations: new Map(stations.map((s) => [s.code, stationInfo(s, systems, versions)])),
			instruments: new Map(instruments.map((i) => [i.code, instrumentInfo(i, versions)])),
			zone: site.timezone,
			tolerance: SENSITIVITY[site.settings.sensitivity ?? 'usual'],
			waits: site.settings.waits,
		},
	};
}

/** What was read of each database last: as good as read again while the site names the same version. */
const kept = new WeakMap<object, { version: number; context: SiteContext }>();

export async function loadSite(db: Db): Promise<SiteContext | null> {
	const site = await findSite(db);
	if (!site) return null;
	const before = kept.get(homeOf(db));
	if (before?.version === site.lineVersion) return { ...before.context, site };
	// One after the other: inside a transaction there is one connection.
	const systems = await listSystems(db, site.id);
	const stations = await listStations(db, site.id);
	const versions = await listSetupVersions(db, site.id);
	const context = contextOf(site, systems, stations, versions, await listInstruments(db, site.id));
	kept.set(homeOf(db), { version: site.lineVersion, context });
	return context;
}

export async function requireSite(db: Db): Promise<SiteContext> {
	const context = await loadSite(db);
	if (!context || context.site.closed) throw new NoSite();
	return context;
}

/** A site of which nothing was said yet. */
export const PLAIN_SITE = { name: 'My site', timezone: 'UTC', units: {}, settings: {} };

/** The site to hold a file against without storing it; one that is not there yet stays so. */
export const siteForLooking = async (db: Db): Promise<SiteContext> =>
	(await loadSite(db)) ??
	contextOf(
		{
			...PLAIN_SITE,
			id: -1,
			lineVersion: -1,
			probeVersion: -1,
			memoryVersion: -1,
			sample: false,
			streamsDue: false,
			closed: false,
		},
		[],
		[],
		[],
		[],
	);

/** The site, made with plain defaults when a file or script arrives before anybody set one up. */
export async function siteForIntake(db: Db): Promise<SiteContext> {
	const context = await loadSite(db);
	if (context) return context;
	return writing(db, async (client) => {
		if (!(await workForFirst(client))) await insertSite(client, PLAIN_SITE);
		return requireSite(client);
	});
}
