import { useReducer } from 'react';
import type { FieldProblem } from '@/contract/problems';
import type { Instrument, Site, Station, System } from '@/contract/site';
import { rangesFor, type Stage } from '@/core/crop/presets';
import { ApiProblem, api } from '../data/client';
import { onlyChanged } from '../data/seen';
import type { Since } from './SinceWhen';

export type WholeSite = Site & Required<Pick<Site, 'units' | 'settings'>>;
export type Kind = 'station' | 'system' | 'instrument';
/** What is looked at: the site itself, or one thing of it. */
export type Chosen = { kind: 'site' } | { kind: Kind | 'node'; code: string };

export interface SetupState {
	site: WholeSite;
	systems: System[];
	stations: Station[];
	instruments: Instrument[];
	chosen: Chosen;
	said: string;
	problem: string;
	busy: boolean;
	/** Somebody changed meanwhile what was to be saved. */
	overtaken: boolean;
}
/** What the server did not take, by the path in what was sent; null once it is kept. */
export type Refused = readonly FieldProblem[] | null;
const LIST = { station: 'stations', system: 'systems', instrument: 'instruments' } as const;

/** Sent with every change: which it is, and what kind of thing. */
const ALWAYS = ['code', 'kind'] as const;

const put = <T extends { code: string }>(list: readonly T[], one: T): T[] =>
	list.some((x) => x.code === one.code) ? list.map((x) => (x.code === one.code ? one : x)) : [...list, one];

/** What was set up, and what can be done with it; each change is kept at once, and said. */
export function useSetup(first: Pick<SetupState, 'site' | 'systems' | 'stations' | 'instruments'>) {
	const [s, set] = useReducer(
		(now: SetupState, c: Partial<SetupState> | ((s: SetupState) => Partial<SetupState>)) => {
			const change = typeof c === 'function' ? c(now) : c;
			return { ...now, ...(change.chosen ? { overtaken: false } : {}), ...change };
		},
		{ ...first, chosen: { kind: 'site' } as Chosen, said: '', problem: '', busy: false, overtaken: false },
	);
	async function run(said: string, work: () => Promise<void>): Promise<Refused> {
		set({ problem: '', said: '', busy: true, overtaken: false });
		try {
			await work();
			set({ said });
			return null;
		} catch (error) {
			set({ problem: (error as Error).message, overtaken: error instanceof ApiProblem && error.overtaken });
			return error instanceof ApiProblem ? error.errors : [];
		} finally {
			set({ busy: false });
		}
	}
	const saveStation = (x: Station, since: Since = 'now', said = `${x.name ?? x.code} saved.`) =>
		run(said, async () => {
			const body = onlyChanged(
				s.stations.find((b) => b.code === x.code),
				x,
				ALWAYS,
			);
			const saved = await api('POST /stations', { query: unlessNow(since), body });
			set((now) => ({ stations: put(now.stations, saved), chosen: { kind: 'station', code: saved.code } }));
		});
	/** Saves a system and, if asked, brings the ranges of its stations to those of its crop and stage. */
	const saveSystem = (y: System, ranges = false, since: Since = 'now', said = `${y.name ?? y.code} saved.`) =>
		run(said, async () => {
			const body = onlyChanged(
				s.systems.find((b) => b.code === y.code),
				y,
				ALWAYS,
			);
			const saved = await api('POST /systems', { query: unlessNow(since), body });
			set((now) => ({ systems: put(now.systems, saved), chosen: { kind: 'system', code: saved.code } }));
			if (!ranges) return;
			const range = rangesFor(y.crop ?? '', (y.stage ?? 'growing') as Stage);
			for (const x of s.stations.filter((x) => x.system === y.code && x.kind !== 'drain' && !x.retired)) {
				const body = onlyChanged(x, { ...x, ranges: { ...x.ranges, ...range } }, ALWAYS);
				const changed = await api('POST /stations', { query: unlessNow(since), body });
				set((now) => ({ stations: put(now.stations, changed) }));
			}
		});
	const saveInstrument = (i: Instrument, since: Since = 'now', said = `${i.name ?? i.code} saved.`) =>
		run(said, async () => {
			const body = onlyChanged(
				s.instruments.find((b) => b.code === i.code),
				i,
				ALWAYS,
			);
			const saved = await api('POST /instruments', { query: unlessNow(since), body });
			set((now) => ({ instruments: put(now.instruments, saved), chosen: { kind: 'instrument', code: saved.code } }));
		});
	const saveSite = (site: WholeSite) =>
		run(`${site.name} saved.`, async () => {
			// Settings that are not sent stay as another made them; where it lies is one thing.
			const { seen: _, ...settings } = onlyChanged(s.site.settings, site.settings, ['latitude', 'longitude']);
			await api('PUT /site', { body: { ...site, settings } });
			set({ site });
		});
	/** Moves a station to another place in the line. */
	const move = (code: string, to: number) => {
		const codes = s.stations.filter((x) => !x.retired).map((x) => x.code);
		const from = codes.indexOf(code);
		if (from < 0 || to < 0 || to >= codes.length || to === from) return;
		codes.splice(to, 0, ...codes.splice(from, 1));
		// What is no longer used stays behind the rest.
		const all = [...codes, ...s.stations.filter((x) => x.retired).map((x) => x.code)];
		const before = s.stations;
		set({ stations: all.map((c, i) => ({ ...s.stations.find((x) => x.code === c)!, position: i + 1 })) });
		void run('The line is in its new order.', () =>
			api('POST /stations/order', { body: { codes: all } }).then(() => {}),
		).then((refused) => refused && set({ stations: before }));
	};
	/** Takes something out of use, or back into it; its history stays. */
	const retire = (kind: Kind, code: string, retired: boolean) => {
		const one = s[LIST[kind]].find((x) => x.code === code)!;
		const name = one.name ?? code;
		const said = retired ? `${name} is retired: lists forget it, its history stays.` : `${name} is back in use.`;
		if (kind === 'station') return saveStation({ ...(one as Station), retired }, 'now', said);
		if (kind === 'system') return saveSystem({ ...(one as System), retired }, false, 'now', said);
		return saveInstrument({ ...(one as Instrument), retired }, 'now', said);
	};
	/** All as it is by now; what is typed into a form of it goes. */
	const asItIs = () =>
		run('', async () => {
			const [{ systems }, { stations }, { instruments }] = await Promise.all([
				api('GET /systems'),
				api('GET /stations'),
				api('GET /instruments'),
			]);
			set({ systems, stations, instruments });
		});
	return { s, set, asItIs, saveStation, saveSystem, saveInstrument, saveSite, move, retire };
}
export type SetupTools = ReturnType<typeof useSetup>;

/** From now on is what is meant where nothing is said. */
const unlessNow = (since: Since): { since?: Since } => (since === 'now' ? {} : { since });
