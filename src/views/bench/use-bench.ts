import { useCallback, useEffect, useMemo, useReducer } from 'react';
import { fromWorking } from '@/core/judge/working-scale';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { parseWhen } from '@/core/quantity/when';
import { skippedSteps, usualProtocol } from '@/core/reading/protocol';
import type { SiteView } from '@/core/reading/site-view';
import { hasFewMinerals } from '@/core/rhythm/due';
import { stepsHere } from '@/words/en/protocol';
import { whenProblem } from '@/words/en/when';
import { refetchMemory, useEngine } from '../data/engine';
import { undo, useNotedEntry } from '../data/undo';
import type { Logged } from '../entry/EventForm';
import { usualInstrument } from '../entry/InstrumentChoice';
import { idsOf, judgeDraft, readingsOf, save } from '../entry/sample';
import { dateTime, shown } from '../ui/format';
import { changedBench, newBench } from './bench-state';
import { dipsOf, entriesOf, otherFields, USUAL } from './dips';
import { dropDraft, emptyDraft } from './draft';
import { type KitChange, keepKit, withChange } from './keep-kit';
import { useExpert } from './Protocol';
import { sampleOf } from './sample-of';
import { savedWords } from './saved-words';
import { useDraft } from './use-draft';
import { type BenchWalk, goesOn } from './walk-order';

/** Salt leaks from a pH electrode, so water of few minerals has its EC dipped first. */
const THIN: readonly Quantity[] = ['ec', 'temp', 'ph'];

/** What is typed at Bench, what it is understood as, and everything that can be done with it. */
export function useBench(given: SiteView, asked: string | null, walk: BenchWalk | null) {
	const order = useMemo(
		() => (walk && walk.stops.length > 0 ? walk.stops.map((s) => s.station) : given.stations.map((s) => s.info.code)),
		[walk, given],
	);
	const start = asked && given.stations.some((s) => s.info.code === asked) ? asked : order[0]!;
	const [draft, setDraft] = useDraft(given, start, asked);
	const [state, set] = useReducer(changedBench, given.now, newBench);
	const { clock, ticked, waitS, changed } = state;
	const site = useMemo(
		() => ({ ...given, instruments: given.instruments.map((i) => withChange(i, changed[i.info.code])) }),
		[given, changed],
	);
	const engine = useEngine(given, [draft.station]);
	const [expert, setExpert] = useExpert();
	useEffect(() => set({ clock: Date.now() }), []);

	const station = site.stations.find((s) => s.info.code === draft.station)!;
	const thin = hasFewMinerals(station.usualEcUsCm);
	const instrument = site.instruments.find((i) => i.info.code === draft.instrument);
	const steps = stepsHere(station.protocol, usualProtocol(station.info.kind, instrument?.kind ?? 'combined', thin));
	// Two hours ago is from now, not from when the page was opened.
	const when = parseWhen(draft.when, draft.when.trim() === '' ? clock : Date.now(), site.timezone);
	const at = draft.when.trim() === '' || !when.ok ? null : when.value;
	const rows = dipsOf(draft, site, engine, at ?? clock);
	const entries = entriesOf(rows);
	const broken = !when.ok || rows.some((r) => Object.values(r.values).some((v) => v.state === 'problem'));
	const sample = sampleOf({
		draft,
		entries,
		at,
		waitS,
		skipped: skippedSteps(steps, ticked, new Set()),
		round: walk?.id ?? null,
	});
	const ready = !state.busy && !broken && entries.length > 0;

	/** What is mostly shown here, as it would be typed. */
	function expected(q: Quantity): string | undefined {
		const prediction = engine.expect(draft.station, seriesQuantity(q), clock);
		return prediction && prediction.from > 0
			? shown(q, fromWorking(seriesQuantity(q), prediction.level), site.units)
			: undefined;
	}
	function choose(code: string) {
		setDraft((d) => ({
			...d,
			station: code,
			instrument: usualInstrument(site, code, null),
			others: [],
			more: [],
			by: {},
		}));
		set({ ticked: new Set(), waitS: null });
	}
	function move(step: 1 | -1) {
		choose(order[(order.indexOf(draft.station) + step + order.length) % order.length]!);
	}
	function setText(row: number, q: Quantity, text: string) {
		set({ said: [] });
		setDraft((d) =>
			row === 0
				? { ...d, texts: { ...d.texts, [q]: text } }
				: { ...d, others: d.others.map((o, i) => (i === row - 1 ? { ...o, texts: { ...o.texts, [q]: text } } : o)) },
		);
	}
	const tick = useCallback(
		(code: string) =>
			set(({ ticked: t }) => ({ ticked: new Set(t.has(code) ? [...t].filter((c) => c !== code) : [...t, code]) })),
		[],
	);

	useNotedEntry(state.undo);
	async function submit() {
		if (!ready) return;
		set({ busy: true, problem: '' });
		try {
			const now = Date.now();
			const result = await save([{ ...sample, at: at ?? now }]);
			if (at === null) engine.take(readingsOf({ ...sample, at: now }, now, site));
			else refetchMemory();
			dropDraft();
			const finished = new Set(state.done).add(draft.station);
			const next = walk ? goesOn(order, draft.station, finished) : draft.station;
			setDraft({
				...emptyDraft(site, next),
				...(next === draft.station ? { instrument: draft.instrument, by: draft.by } : {}),
			});
			set({
				done: finished,
				said: savedWords(result, station.name, site.timezone, expert ? null : (instrument?.kind ?? null), at !== null),
				undo: result.kind === 'stored' ? { readings: idsOf(result.stored) } : 'waiting',
				waitS: null,
				ticked: new Set(),
				clock: Date.now(),
			});
			if (result.kind === 'stored') window.dispatchEvent(new Event('cordwain:changed'));
		} catch (error) {
			set({ problem: `${(error as Error).message} What you typed is still here.` });
		} finally {
			set({ busy: false });
		}
	}
	async function takeBack() {
		const what = state.undo;
		if (what === null) return;
		set({ undo: null });
		try {
			set({ said: [await undo(what)] });
			refetchMemory();
		} catch (error) {
			set({ problem: (error as Error).message, undo: what });
		}
	}
	function logged({ words, id }: Logged) {
		set({ said: [words], undo: id === null ? null : { event: id }, clock: Date.now() });
		refetchMemory();
	}
	const keep = async (code: string, change: KitChange) => {
		try {
			await keepKit(code, change);
			set((s) => ({ changed: { ...s.changed, [code]: { ...s.changed[code], ...change } } }));
		} catch (error) {
			set({ problem: (error as Error).message });
		}
	};

	return {
		site,
		order,
		draft,
		setDraft,
		state,
		set,
		station,
		instrument,
		steps,
		thin,
		fields: thin ? THIN : USUAL,
		more: otherFields(draft, site),
		rows,
		entries,
		sample,
		readings: readingsOf(sample, clock, site),
		// What was known at an earlier time the server knows; it says so when it is saved.
		verdicts: entries.length > 0 && at === null ? judgeDraft(engine, sample, site) : [],
		ready,
		whenSaid: !when.ok
			? whenProblem(when.problem)
			: at === null
				? ''
				: `${dateTime(at, site.timezone)}; judged by what was known then, when you save`,
		whenWrong: !when.ok,
		expected,
		choose,
		move,
		setText,
		tick,
		submit,
		undo: takeBack,
		logged,
		keepKit: keep,
		expert,
		setExpert,
	};
}
