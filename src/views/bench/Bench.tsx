import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { skippedSteps, usualProtocol } from '@/core/reading/protocol';
import type { SiteView } from '@/core/reading/site-view';
import { stepsHere } from '@/words/en/protocol';
import { api } from '../data/client';
import { useEngine } from '../data/engine';
import { type Held, unheld } from '../data/held';
import { EventForm } from '../entry/EventForm';
import { heldInHand, InstrumentChoice, otherInstrument, usualInstrument } from '../entry/InstrumentChoice';
import { type DraftSample, judgeDraft, readingsOf, save } from '../entry/sample';
import { DipRows } from './DipRows';
import { DropKit, USUAL_PRINTED } from './DropKit';
import { dipsOf, entriesOf, fixesOf, opinionsOf, USUAL, worthOf } from './dips';
import { dropDraft, emptyDraft } from './draft';
import { EntryVerdict } from './EntryVerdict';
import { JustIn, useArrivals } from './JustIn';
import { Measuring } from './Measuring';
import { Protocol, useExpert } from './Protocol';
import { Said } from './Said';
import { SaveBar } from './SaveBar';
import { SecondOpinion } from './SecondOpinion';
import { StationList, type WalkStop } from './StationList';
import { savedWords } from './saved-words';
import { useDraft } from './use-draft';
import { useSwipe } from './use-swipe';
import { Walk } from './Walk';

/** Salt leaks from a pH electrode, so water of few minerals has its EC dipped first. */
const THIN: readonly Quantity[] = ['ec', 'temp', 'ph'];
const FEW_MINERALS_US_CM = 100;
const MOST_OTHERS = 3;

export function Bench({
	site: held,
	station: asked,
	walk,
}: {
	site: Held<SiteView>;
	station: string | null;
	/** The round under way, with what is due. */
	walk: { id: number; stops: WalkStop[] } | null;
}) {
	const site = unheld(held);
	const stops = walk?.stops ?? null;
	const order = useMemo(
		() => (stops && stops.length > 0 ? stops.map((s) => s.station) : site.stations.map((s) => s.info.code)),
		[stops, site],
	);
	const start = asked && site.stations.some((s) => s.info.code === asked) ? asked : order[0]!;
	const [draft, setDraft] = useDraft(site, start, asked);
	const engine = useEngine(site, [draft.station]);
	const [busy, setBusy] = useState(false);
	const [said, setSaid] = useState<string[]>([]);
	const [problem, setProblem] = useState('');
	const [waitS, setWaitS] = useState<number | null>(null);
	const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
	const [expert, setExpert] = useExpert();
	const [done, setDone] = useState<ReadonlySet<string>>(new Set());
	const [clock, setClock] = useState(site.now);
	const fields = useRef<Partial<Record<string, HTMLInputElement | null>>>({});

	const ecHere = site.stations.find((s) => s.info.code === draft.station)!.usualEcUsCm;
	const thin = ecHere !== null && ecHere < FEW_MINERALS_US_CM;
	const order3 = thin ? THIN : USUAL;
	const first = order3[0]!;

	useEffect(() => setClock(Date.now()), []);
	// Once for each station, when its first field is there.
	// biome-ignore lint/correctness/useExhaustiveDependencies: a new station is the reason to focus
	useEffect(() => {
		fields.current[first]?.focus();
	}, [draft.station, first]);
	const arrivals = useArrivals(useCallback(() => setClock(Date.now()), []));

	const { info, name, protocol, usualWaitS } = site.stations.find((s) => s.info.code === draft.station)!;
	const instrumentOf = (code: string | null) => site.instruments.find((i) => i.info.code === code);
	const instrument = instrumentOf(draft.instrument);
	const steps = stepsHere(protocol, usualProtocol(info.kind, instrument?.kind ?? 'combined', thin));

	const rows = dipsOf(draft, site, engine, clock);
	const entries = entriesOf(rows);
	const broken = rows.some((r) => Object.values(r.values).some((v) => v.state === 'problem'));
	const sample: DraftSample = {
		station: draft.station,
		instrument: draft.instrument,
		values: entries.map((e) => ({
			quantity: e.v.quantity,
			digits: e.v.digits,
			unit: e.v.unit,
			instrument: e.instrument,
		})),
		note: draft.note,
		at: null,
		waitS,
		skipped: skippedSteps(steps, ticked, new Set()),
		round: walk?.id ?? null,
		source: 'bench',
	};
	const verdicts = entries.length > 0 ? judgeDraft(engine, sample) : [];
	const readings = readingsOf(sample, clock);
	const firstFix = verdicts.findIndex((v) => v.deciding?.suggested != null);

	function choose(station: string) {
		setDraft((d) => ({ ...d, station, instrument: usualInstrument(site, station, null), others: [] }));
		setTicked(new Set());
		setWaitS(null);
	}
	function move(step: 1 | -1) {
		const at = order.indexOf(draft.station);
		choose(order[(at + step + order.length) % order.length]!);
	}
	function setText(row: number, q: Quantity, text: string) {
		setSaid([]);
		setDraft((d) =>
			row === 0
				? { ...d, texts: { ...d.texts, [q]: text } }
				: { ...d, others: d.others.map((o, i) => (i === row - 1 ? { ...o, texts: { ...o.texts, [q]: text } } : o)) },
		);
	}
	const swipe = useSwipe(move);
	const tick = useCallback(
		(code: string) => setTicked((t) => new Set(t.has(code) ? [...t].filter((c) => c !== code) : [...t, code])),
		[],
	);
	const tickOn = useCallback((code: string) => setTicked((t) => new Set([...t, code])), []);
	function fix(index: number) {
		for (const { row, q, text } of fixesOf(entries, verdicts, index, site.units)) setText(row, q, text);
		const e = entries[index]!;
		fields.current[`${rows[e.row]!.prefix}${e.q}`]?.focus();
	}

	async function submit() {
		if (busy || broken || entries.length === 0) return;
		setBusy(true);
		setProblem('');
		try {
			const now = Date.now();
			const result = await save([{ ...sample, at: now }]);
			engine.take(readingsOf({ ...sample, at: now }, now));
			dropDraft();
			const finished = new Set(done).add(draft.station);
			setDone(finished);
			setSaid(savedWords(result, name, site.timezone, expert ? null : (instrument?.kind ?? null)));
			setWaitS(null);
			setTicked(new Set());
			const at = order.indexOf(draft.station);
			const after = [...order.slice(at + 1), ...order.slice(0, at)];
			const next = (walk && after.find((s) => !finished.has(s))) || order[(at + 1) % order.length]!;
			setDraft(emptyDraft(site, next));
			setClock(Date.now());
			if (result.kind === 'stored') window.dispatchEvent(new Event('cordwain:changed'));
			fields.current[first]?.focus();
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}

	const uOf = (i: number) => {
		const { v, instrument: code } = entries[i]!;
		return worthOf(v.quantity, instrumentOf(code), verdicts[i]!.u, readings[i]!.value).u;
	};
	const opinions = opinionsOf(entries, readings, verdicts, instrumentOf);

	function onKey(e: KeyboardEvent<HTMLInputElement>, text: string) {
		if (e.key === 'Enter') {
			e.preventDefault();
			submit();
		} else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
			e.preventDefault();
			move(e.key === 'ArrowDown' ? 1 : -1);
		} else if (e.key === 'f' && firstFix >= 0 && !/[a-z]$/i.test(text)) {
			e.preventDefault();
			fix(firstFix);
		}
	}

	const kitRow = rows.findIndex((r) => instrumentOf(r.instrument)?.kind === 'drop_kit');
	const kit = kitRow >= 0 ? instrumentOf(rows[kitRow]!.instrument)! : null;
	const here = arrivals.filter((a) => a.station === draft.station);
	const addOther = (code: string) =>
		setDraft((d) => ({ ...d, others: [...d.others, { instrument: code, texts: {} }] }));

	return (
		<div className="grid lg:grid-cols-[15rem_1fr] gap-x-8 gap-y-3">
			<div>
				<h1 className="mb-2">{walk ? 'Round' : 'Bench'}</h1>
				<StationList site={site} stops={stops} current={draft.station} done={done} now={clock} onChoose={choose} />
				{walk && <Walk walk={walk} site={site} done={done} current={draft.station} onSkip={() => move(1)} />}
			</div>
			<div>
				<form
					onSubmit={(e) => {
						e.preventDefault();
						submit();
					}}
					{...swipe}
				>
					<div className="flex flex-wrap items-end gap-3 mb-3">
						<h2 className="text-[1.35rem] grow" data-at={draft.station}>
							{name}
						</h2>
						<InstrumentChoice
							id="instrument"
							label="Measured with"
							site={site}
							value={draft.instrument ?? ''}
							unsaid
							onChange={(code) => setDraft((d) => ({ ...d, instrument: code || null }))}
						/>
					</div>
					<DipRows
						site={site}
						rows={rows}
						order={order3}
						register={(id, el) => {
							fields.current[id] = el;
						}}
						onInstrument={(row, code) =>
							setDraft((d) => ({
								...d,
								others: d.others.map((o, i) => (i === row - 1 ? { ...o, instrument: code } : o)),
							}))
						}
						onLeaveOut={(row) => setDraft((d) => ({ ...d, others: d.others.filter((_, i) => i !== row - 1) }))}
						onText={setText}
						onKey={onKey}
					/>
					<SaveBar
						note={draft.note}
						onNote={(note) => setDraft((d) => ({ ...d, note }))}
						onAgain={draft.others.length < MOST_OTHERS ? () => draft.instrument && addOther(draft.instrument) : null}
						onSecond={
							draft.others.length < MOST_OTHERS && heldInHand(site).length > 1
								? () => addOther(otherInstrument(site, [draft.instrument, ...draft.others.map((o) => o.instrument)]))
								: null
						}
						ready={!busy && !broken && entries.length > 0}
					/>
					{problem && (
						<p role="alert" className="text-error">
							{problem} What you typed is still here.
						</p>
					)}
					<div aria-live="polite">
						<Said lines={said} empty={entries.length === 0} />
						{verdicts.map((v, i) => (
							<EntryVerdict
								key={`${entries[i]!.row}${entries[i]!.q}`}
								entry={entries[i]!}
								verdict={v}
								value={readings[i]!.value}
								u={uOf(i)}
								range={info.ranges[seriesQuantity(entries[i]!.v.quantity)] ?? null}
								units={site.units}
								fixKey={i === firstFix ? 'f' : undefined}
								onFix={() => fix(i)}
							/>
						))}
						{opinions.map(({ q, witnesses }) => (
							<SecondOpinion key={q} quantity={q} witnesses={witnesses} now={clock} units={site.units} />
						))}
					</div>
				</form>
				{kit && (
					<DropKit
						key={draft.station}
						printed={kit.printed ?? USUAL_PRINTED}
						onPick={(interval) => setText(kitRow, 'ph', interval)}
						onPrinted={async (values) => {
							await api('POST /instruments', { body: { code: kit.info.code, kind: 'drop_kit', printed_ph: values } });
							location.reload();
						}}
					/>
				)}
				<Measuring
					run={done.size}
					site={site}
					meter={instrument}
					station={{ code: draft.station, name, usualWaitS }}
					ecHereUsCm={ecHere}
					onStep={tickOn}
					onTake={(texts, waited) => {
						setSaid([]);
						setDraft((d) => ({ ...d, texts: { ...d.texts, ...texts } }));
						setWaitS(waited);
						fields.current[first]?.focus();
					}}
					onWaited={setWaitS}
					onSettled={(q, digits) => setText(0, q, digits)}
				/>
				<Protocol steps={steps} done={ticked} onTick={tick} expert={expert} onExpert={setExpert} />
				<JustIn arrivals={here} name={(code) => instrumentOf(code)?.name ?? code} />
				<EventForm site={site} station={draft.station} onLogged={(words) => setSaid([words])} />
			</div>
		</div>
	);
}
