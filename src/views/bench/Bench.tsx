import { type KeyboardEvent, useCallback, useEffect, useRef } from 'react';
import type { Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { type Held, unheld } from '../data/held';
import { EventForm } from '../entry/EventForm';
import { heldInHand, InstrumentChoice, otherInstrument } from '../entry/InstrumentChoice';
import { DipRows } from './DipRows';
import { DropKit, USUAL_PRINTED } from './DropKit';
import { fixesOf } from './dips';
import { JustIn, useArrivals } from './JustIn';
import { Measuring } from './Measuring';
import { MoreFields } from './MoreFields';
import { Protocol } from './Protocol';
import { Said } from './Said';
import { SaveBar } from './SaveBar';
import { StationList } from './StationList';
import { useBench } from './use-bench';
import { useSwipe } from './use-swipe';
import { Verdicts } from './Verdicts';
import { Walk } from './Walk';
import type { BenchWalk } from './walk-order';

const MOST_OTHERS = 3;

/** Where readings are taken: station, instrument, what the display says, and at once what to think of it. */
export function Bench({
	site: held,
	station: asked,
	walk,
}: {
	site: Held<SiteView>;
	station: string | null;
	/** The round under way, with what is due. */
	walk: BenchWalk | null;
}) {
	const b = useBench(unheld(held), asked, walk);
	const { site, draft, setDraft, state, set, station, instrument, rows, entries, verdicts } = b;
	const fields = useRef<Partial<Record<string, HTMLInputElement | null>>>({});
	const first = b.fields[0]!;
	const focusFirst = () => fields.current[first]?.focus();
	// Once for each station, when its first field is there.
	// biome-ignore lint/correctness/useExhaustiveDependencies: a new station is the reason to focus
	useEffect(focusFirst, [draft.station, first]);
	const arrivals = useArrivals(useCallback(() => set({ clock: Date.now() }), [set]));
	const swipe = useSwipe(b.move);

	const instrumentOf = (code: string | null) => site.instruments.find((i) => i.info.code === code);
	const firstFix = verdicts.findIndex((v) => v.deciding?.suggested != null);
	const submit = () => b.submit().then(focusFirst);
	const register = (id: string, el: HTMLInputElement | null) => {
		fields.current[id] = el;
	};
	function fix(index: number) {
		for (const { row, q, text } of fixesOf(entries, verdicts, index, site.units)) b.setText(row, q, text);
		const e = entries[index]!;
		fields.current[`${rows[e.row]!.prefix}${e.q}`]?.focus();
	}
	function onKey(e: KeyboardEvent<HTMLInputElement>, text: string) {
		if (e.key === 'Enter') {
			e.preventDefault();
			submit();
		} else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
			e.preventDefault();
			b.move(e.key === 'ArrowDown' ? 1 : -1);
		} else if (e.key === 'f' && firstFix >= 0 && !/[a-z]$/i.test(text)) {
			e.preventDefault();
			fix(firstFix);
		}
	}
	const kitRow = rows.findIndex((r) => instrumentOf(r.instrument)?.kind === 'drop_kit');
	const kit = kitRow >= 0 ? instrumentOf(rows[kitRow]!.instrument)! : null;
	const addOther = (code: string) =>
		setDraft((d) => ({ ...d, others: [...d.others, { instrument: code, texts: {} }] }));
	const others = draft.others.length < MOST_OTHERS;
	const { name } = station;

	return (
		<div className="grid lg:grid-cols-[15rem_1fr] gap-x-8 gap-y-3">
			<div>
				<h1 className="mb-2 max-sm:sr-only">{walk ? 'Round' : 'Bench'}</h1>
				<StationList
					site={site}
					stops={walk?.stops ?? null}
					current={draft.station}
					done={state.done}
					now={state.clock}
					onChoose={b.choose}
				/>
				{walk && <Walk walk={walk} site={site} done={state.done} current={draft.station} onSkip={() => b.move(1)} />}
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
						<h2 className="text-[1.35rem] grow max-sm:sr-only" data-at={draft.station}>
							{name}
						</h2>
						<InstrumentChoice
							id="instrument"
							label="Measured with"
							site={site}
							value={draft.instrument ?? ''}
							unsaid
							width="w-44 max-sm:w-full"
							onChange={(code) => setDraft((d) => ({ ...d, instrument: code || null }))}
						/>
					</div>
					<DipRows
						site={site}
						rows={rows}
						order={b.fields}
						expected={b.expected}
						register={register}
						onInstrument={(row, code) =>
							setDraft((d) => ({
								...d,
								others: d.others.map((o, i) => (i === row - 1 ? { ...o, instrument: code } : o)),
							}))
						}
						onLeaveOut={(row) => setDraft((d) => ({ ...d, others: d.others.filter((_, i) => i !== row - 1) }))}
						onText={b.setText}
						onKey={onKey}
					/>
					<MoreFields
						site={site}
						shape={station.shape}
						dip={rows[0]!}
						fields={b.more}
						expected={b.expected}
						register={register}
						onText={(q, text) => b.setText(0, q, text)}
						onKey={onKey}
						onMore={(q) => setDraft((d) => ({ ...d, more: [...d.more, q] }))}
						onBy={(q, code) => setDraft((d) => ({ ...d, by: { ...d.by, [q]: code } }))}
						onDropSize={(code, q, per) =>
							b.keepKit(code, { perDrop: { ...instrumentOf(code)?.info.perDrop, [q]: per } })
						}
					/>
					<SaveBar
						note={draft.note}
						onNote={(note) => setDraft((d) => ({ ...d, note }))}
						when={draft.when}
						whenSaid={b.whenSaid}
						whenWrong={b.whenWrong}
						onWhen={(text) => setDraft((d) => ({ ...d, when: text }))}
						onAgain={others ? () => draft.instrument && addOther(draft.instrument) : null}
						onSecond={
							others && heldInHand(site).length > 1
								? () => addOther(otherInstrument(site, [draft.instrument, ...draft.others.map((o) => o.instrument)]))
								: null
						}
						ready={b.ready}
					/>
					{state.problem && (
						<p role="alert" className="text-error">
							{state.problem}
						</p>
					)}
					<div aria-live="polite">
						<Said lines={state.said} empty={entries.length === 0} onUndo={state.undo === null ? null : b.undo} />
						<Verdicts bench={b} firstFix={firstFix} onFix={fix} />
					</div>
				</form>
				{kit && (
					<DropKit
						key={draft.station}
						printed={kit.printed ?? USUAL_PRINTED}
						onPick={(interval) => b.setText(kitRow, 'ph', interval)}
						onPrinted={(printed) => b.keepKit(kit.info.code, { printed })}
					/>
				)}
				<Measuring
					run={state.done.size}
					site={site}
					meter={instrument}
					station={{ code: draft.station, name, usualWaitS: station.usualWaitS }}
					ecHereUsCm={station.usualEcUsCm}
					onStep={(code) => set(({ ticked }) => ({ ticked: new Set([...ticked, code]) }))}
					onTake={(texts, waitS) => {
						set({ said: [], waitS });
						setDraft((d) => ({ ...d, texts: { ...d.texts, ...texts } }));
						focusFirst();
					}}
					onWaited={(waitS) => set({ waitS })}
					onSettled={(q: Quantity, digits) => b.setText(0, q, digits)}
				/>
				<Protocol steps={b.steps} done={state.ticked} onTick={b.tick} expert={b.expert} onExpert={b.setExpert} />
				<JustIn
					arrivals={arrivals.filter((a) => a.station === draft.station)}
					name={(code) => instrumentOf(code)?.name ?? code}
				/>
				<EventForm site={site} station={draft.station} onLogged={b.logged} />
			</div>
		</div>
	);
}
