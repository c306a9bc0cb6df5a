import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Change } from '@/contract/meters';
import { fromWorking } from '@/core/judge/working-scale';
import { driftUncertainty } from '@/core/probe/drift';
import { chanceInRange } from '@/core/probe/normal';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { AFTERWARDS, ownProtocol, skippedSteps, usualProtocol } from '@/core/reading/protocol';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { api } from '../data/client';
import { EventForm } from '../entry/EventForm';
import { fixedValue } from '../entry/fix';
import { type DraftSample, engineOf, judgeDraft, PAGE, readingsOf, type SaveResult, save } from '../entry/sample';
import { VerdictLine } from '../entry/VerdictLine';
import { dateTime } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';
import { DropKit, USUAL_PRINTED } from './DropKit';
import { dropDraft, emptyDraft, keepDraft, keptDraft, lastInstrument, type Texts, typedSomething } from './draft';
import { type Arrival, JustIn, useChanges } from './JustIn';
import { LiveMeter } from './LiveMeter';
import { Protocol } from './Protocol';
import { SampleFields } from './SampleFields';
import { SecondOpinion } from './SecondOpinion';
import { SettleWatch } from './SettleWatch';
import { StationList, type WalkStop } from './StationList';
import { type FieldValue, understandField } from './understand';
import { Walk } from './Walk';

const USUAL: readonly Quantity[] = ['ph', 'ec', 'temp'];
/** Salt leaks from a pH electrode, so water of few minerals has its EC dipped first. */
const THIN: readonly Quantity[] = ['ec', 'temp', 'ph'];
const FEW_MINERALS_US_CM = 100;
const MOST_OTHERS = 3;
const EXPERT = 'cordwain.expert';

export function Bench({
	site,
	station: asked,
	walk,
}: {
	site: SiteView;
	station: string | null;
	/** The round under way, with what is due. */
	walk: { id: number; stops: WalkStop[] } | null;
}) {
	const stops = walk?.stops ?? null;
	const order = useMemo(
		() => (stops && stops.length > 0 ? stops.map((s) => s.station) : site.stations.map((s) => s.info.code)),
		[stops, site],
	);
	const start = asked && site.stations.some((s) => s.info.code === asked) ? asked : order[0]!;
	const engine = useMemo(() => engineOf(site), [site]);
	const [draft, setDraft] = useState(() => emptyDraft(site, start));
	const [busy, setBusy] = useState(false);
	const [said, setSaid] = useState<string[]>([]);
	const [problem, setProblem] = useState('');
	const [waitS, setWaitS] = useState<number | null>(null);
	const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
	const [expert, setExpert] = useState(false);
	const [done, setDone] = useState<ReadonlySet<string>>(new Set());
	const [arrivals, setArrivals] = useState<Arrival[]>([]);
	const [clock, setClock] = useState(site.now);
	const fields = useRef<Partial<Record<string, HTMLInputElement | null>>>({});
	const touch = useRef<{ x: number; y: number } | null>(null);

	const ecExpected = engine.expect(draft.station, 'ec', clock);
	const ecHere = ecExpected && ecExpected.from > 0 ? fromWorking('ec', ecExpected.level) : null;
	const thin = ecHere !== null && ecHere < FEW_MINERALS_US_CM;
	const order3 = thin ? THIN : USUAL;
	const first = order3[0]!;

	useEffect(() => {
		const kept = keptDraft(site);
		if (kept && (!asked || kept.station === asked)) setDraft(kept);
		setExpert(localStorage.getItem(EXPERT) === 'yes');
		setClock(Date.now());
	}, [asked, site]);
	// Once for each station, when its first field is there.
	// biome-ignore lint/correctness/useExhaustiveDependencies: a new station is the reason to focus
	useEffect(() => {
		fields.current[first]?.focus();
	}, [draft.station, first]);
	useEffect(() => {
		if (typedSomething(draft)) keepDraft(draft);
	}, [draft]);

	const onChange = useCallback((change: Change) => {
		if (change.kind !== 'readings' || !change.station || !change.readings) return;
		const { station, readings } = change;
		setArrivals((list) => [...list.slice(-30), { at: Date.now(), station, own: change.by === PAGE, readings }]);
		if (change.by !== PAGE && Date.parse(readings[0]?.time ?? '') > 0) setClock(Date.now());
	}, []);
	useChanges(onChange);

	const { info, name, protocol, usualWaitS } = site.stations.find((s) => s.info.code === draft.station)!;
	const instrumentOf = (code: string | null) => site.instruments.find((i) => i.info.code === code);
	const instrument = instrumentOf(draft.instrument);
	const steps = protocol ? ownProtocol(protocol) : usualProtocol(info.kind, instrument?.kind ?? 'combined', thin);

	const valuesOf = (texts: Texts, code: string | null): Partial<Record<Quantity, FieldValue>> => {
		const scale = instrumentOf(code)?.info.ppmScale ?? null;
		return Object.fromEntries(
			USUAL.map((q) => [
				q,
				understandField(q, texts[q] ?? '', scale, site.units, engine.expect(draft.station, seriesQuantity(q), clock)),
			]),
		);
	};
	const rows = [{ instrument: draft.instrument, texts: draft.texts }, ...draft.others].map((r, i) => ({
		...r,
		prefix: i === 0 ? '' : String(i + 1),
		values: valuesOf(r.texts, r.instrument),
	}));
	const entries = rows.flatMap((r, row) =>
		USUAL.flatMap((q) => {
			const v = r.values[q];
			return v?.state === 'value' ? [{ row, q, v, instrument: r.instrument }] : [];
		}),
	);
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
		setDraft((d) => ({ ...d, station, instrument: lastInstrument(site, station), others: [] }));
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
	const tick = useCallback(
		(code: string) => setTicked((t) => new Set(t.has(code) ? [...t].filter((c) => c !== code) : [...t, code])),
		[],
	);
	const tickOn = useCallback((code: string) => setTicked((t) => new Set([...t, code])), []);
	function setExpertMode(on: boolean) {
		setExpert(on);
		localStorage.setItem(EXPERT, on ? 'yes' : 'no');
	}

	function fix(index: number) {
		const e = entries[index]!;
		const { suggested, cause } = verdicts[index]!.deciding!;
		// Swapped values are exchanged together: one alone would leave the other wrong.
		if (cause === 'swapped')
			for (const [i, other] of entries.entries()) {
				const s = verdicts[i]!.deciding;
				if (other.row === e.row && s?.cause === 'swapped' && s.suggested !== null)
					setText(other.row, other.q, fixedValue(s.suggested, other.v.unit, '0.00'));
			}
		else if (cause === 'unit-slip' || cause === 'scale-mismatch') {
			const unit = e.q === 'ec' ? site.units.ec : e.v.unit;
			setText(e.row, e.q, `${fixedValue(suggested!, unit, e.v.digits)}${e.q === 'ec' ? unitSuffix(unit) : ''}`);
		} else setText(e.row, e.q, fixedValue(suggested!, e.v.unit, e.v.digits));
		fields.current[`${rows[e.row]!.prefix}${e.q}`]?.focus();
	}

	function told(result: SaveResult): string[] {
		if (result.kind === 'kept') return [result.message];
		const lines = [`${name} saved. u takes it back (outside a field).`];
		const s = result.stored.samples[0];
		if (s?.round_finished_at)
			lines.push(
				`Its round was finished at ${dateTime(Date.parse(s.round_finished_at), site.timezone)}; this is kept with it as late.`,
			);
		for (const r of s?.retests ?? [])
			lines.push(
				r.answered_before_at
					? `The retest had been done at ${dateTime(Date.parse(r.answered_before_at), site.timezone)}; both are kept.`
					: 'That was the retest; decide about the first reading in Review.',
			);
		if (!expert && instrument && AFTERWARDS[instrument.kind]) lines.push(AFTERWARDS[instrument.kind]);
		return lines;
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
			setSaid(told(result));
			setWaitS(null);
			setTicked(new Set());
			const at = order.indexOf(draft.station);
			const after = [...order.slice(at + 1), ...order.slice(0, at)];
			const next = (walk && after.find((s) => !finished.has(s))) || order[(at + 1) % order.length]!;
			setDraft(emptyDraft(site, next));
			setClock(Date.now());
			window.dispatchEvent(new Event(result.kind === 'stored' ? 'cordwain:changed' : 'cordwain:kept'));
			fields.current[first]?.focus();
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}

	/** The instrument's own uncertainty with what its probe may have drifted since its last calibration. */
	function uOf(e: (typeof entries)[number], u: number, value: number): number {
		const q = seriesQuantity(e.v.quantity);
		const probe = q === 'ph' || q === 'ec' ? instrumentOf(e.instrument)?.probes[q] : undefined;
		if (!probe) return u;
		const drift = driftUncertainty(
			{ ...probe, from: 0 },
			probe.lastAt === null ? 30 : (clock - probe.lastAt) / 86_400_000,
		);
		return Math.hypot(u, q === 'ph' ? drift : (drift / 100) * value);
	}

	/** What each instrument says of a quantity that more than one dip measured. */
	const opinions = (['ph', 'ec'] as const).flatMap((q) => {
		const witnesses = entries.flatMap((e, i) => {
			if (seriesQuantity(e.v.quantity) !== q) return [];
			const value = readings[i]!.value;
			const by = instrumentOf(e.instrument);
			return [
				{
					name: by?.name ?? 'the unnamed meter',
					value,
					u: uOf(e, verdicts[i]!.u, value),
					lastCheckedAt: by?.probes[q]?.lastAt ?? null,
				},
			];
		});
		return witnesses.length > 1 ? [{ q, witnesses }] : [];
	});

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
					onTouchStart={(e) => {
						const t = e.touches[0];
						touch.current = t ? { x: t.clientX, y: t.clientY } : null;
					}}
					onTouchEnd={(e) => {
						const t = e.changedTouches[0];
						const from = touch.current;
						if (!t || !from) return;
						const dx = t.clientX - from.x;
						if (Math.abs(dx) > 80 && Math.abs(dx) > 2 * Math.abs(t.clientY - from.y)) move(dx < 0 ? 1 : -1);
					}}
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
					{rows.map((r, row) => (
						<div key={r.prefix}>
							{row > 0 && (
								<div className="flex gap-3 items-end mb-2">
									<InstrumentChoice
										id={`instrument${r.prefix}`}
										label="and with"
										site={site}
										value={r.instrument ?? ''}
										onChange={(code) =>
											setDraft((d) => ({
												...d,
												others: d.others.map((o, i) => (i === row - 1 ? { ...o, instrument: code } : o)),
											}))
										}
									/>
									<button
										type="button"
										className="underline cursor-pointer min-h-10 text-soft"
										onClick={() => setDraft((d) => ({ ...d, others: d.others.filter((_, i) => i !== row - 1) }))}
									>
										leave it out
									</button>
								</div>
							)}
							<SampleFields
								prefix={r.prefix}
								fields={row === 0 ? order3 : USUAL}
								texts={r.texts}
								understood={r.values}
								units={site.units}
								register={(id, el) => {
									fields.current[id] = el;
								}}
								onText={(q, text) => setText(row, q, text)}
								onKey={(e, q) => onKey(e, r.texts[q] ?? '')}
							/>
						</div>
					))}
					<div className="flex flex-wrap gap-3 items-end mb-2">
						<div className="grow min-w-48">
							<label className="field-label" htmlFor="note">
								Note
							</label>
							<input
								id="note"
								className="field"
								value={draft.note}
								maxLength={2000}
								onChange={(e) => setDraft((d) => ({ ...d, note: e.target.value }))}
							/>
						</div>
						{draft.others.length < MOST_OTHERS && (
							<>
								<button
									type="button"
									className="act !font-normal"
									data-again
									onClick={() => draft.instrument && addOther(draft.instrument)}
								>
									Again
								</button>
								{site.instruments.length > 1 && (
									<button
										type="button"
										className="act !font-normal"
										onClick={() =>
											addOther(otherInstrument(site, [draft.instrument, ...draft.others.map((o) => o.instrument)]))
										}
									>
										Second opinion
									</button>
								)}
							</>
						)}
						<button type="submit" className="act act-main" disabled={busy || broken || entries.length === 0}>
							Save <kbd className="!text-primary-content !border-primary-content">Enter</kbd>
						</button>
					</div>
					{problem && (
						<p role="alert" className="text-error">
							{problem} What you typed is still here.
						</p>
					)}
					<div aria-live="polite">
						{said.length > 0 && (
							<div className="border-l-4 border-secondary pl-3 py-1" data-saved>
								{said.map((s) => (
									<p key={s}>{s}</p>
								))}
							</div>
						)}
						{entries.length === 0 && said.length === 0 && (
							<p className="text-soft mt-2 max-w-[60ch]">
								Type what the display says; the verdict comes as you type. The decimal mark may be left out: 58 is read
								as 5.8. A unit may follow the number: 950ppm, 1920uS, 70F; a drop kit takes an interval, 5.0..6.0.
							</p>
						)}
						{verdicts.map((v, i) => {
							const e = entries[i]!;
							const range = info.ranges[seriesQuantity(e.v.quantity)] ?? null;
							const u = uOf(e, v.u, readings[i]!.value);
							return (
								<div
									key={`${e.row}${e.q}`}
									className="grid sm:grid-cols-[190px_1fr] gap-x-5 items-start border-t border-line pt-2 mt-2"
								>
									<GaugeStrip
										quantity={e.q}
										value={readings[i]!.value}
										u={u}
										range={range}
										standing={standingOf({ flag: v.flag, decision: null })}
										units={site.units}
										ends
									/>
									<VerdictLine
										chance={
											range && standingOf({ flag: v.flag }) === 'sound'
												? chanceInRange(readings[i]!.value, u, range)
												: null
										}
										quantity={e.v.quantity}
										verdict={v}
										units={site.units}
										fixKey={i === firstFix ? 'f' : undefined}
										onFix={v.deciding?.suggested == null ? undefined : () => fix(i)}
									/>
								</div>
							);
						})}
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
				{instrument?.live && instrument.live !== 'none' ? (
					<LiveMeter
						key={`${draft.instrument}${draft.station}${done.size}`}
						instrument={instrument.info.code}
						name={instrument.name}
						simulated={instrument.live === 'simulated'}
						station={draft.station}
						stationName={name}
						ecHereUsCm={ecHere}
						waits={site.settings.waits}
						units={site.units}
						onStep={tickOn}
						onTake={({ texts, waitS: waited }) => {
							setSaid([]);
							setDraft((d) => ({ ...d, texts: { ...d.texts, ...texts } }));
							setWaitS(waited);
							fields.current[first]?.focus();
						}}
					/>
				) : (
					<SettleWatch
						key={`${draft.station}${done.size}`}
						ecHereUsCm={ecHere}
						waits={site.settings.waits}
						usualWaitS={usualWaitS}
						onWaited={setWaitS}
						onSettled={(q, digits) => setText(0, q, digits)}
					/>
				)}
				{expert ? (
					<button
						type="button"
						className="block mt-3 underline cursor-pointer text-soft min-h-8"
						data-show-steps
						onClick={() => setExpertMode(false)}
					>
						Show the steps of measuring here
					</button>
				) : (
					<Protocol steps={steps} done={ticked} onTick={tick} onExpert={() => setExpertMode(true)} />
				)}
				<JustIn arrivals={here} name={(code) => instrumentOf(code)?.name ?? code} />
				<EventForm site={site} station={draft.station} onLogged={(words) => setSaid([words])} />
			</div>
		</div>
	);
}

function InstrumentChoice({
	id,
	label,
	site,
	value,
	unsaid = false,
	onChange,
}: {
	id: string;
	label: string;
	site: SiteView;
	value: string;
	unsaid?: boolean;
	onChange: (code: string) => void;
}) {
	return (
		<div className="w-44">
			<label className="field-label" htmlFor={id}>
				{label}
			</label>
			<select id={id} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				{unsaid && <option value="">not said</option>}
				{site.instruments
					.filter((i) => i.kind !== 'sensor_node')
					.map((i) => (
						<option key={i.info.code} value={i.info.code}>
							{i.name}
						</option>
					))}
			</select>
		</div>
	);
}

const otherInstrument = (site: SiteView, used: readonly (string | null)[]): string =>
	(site.instruments.find((i) => i.kind !== 'sensor_node' && !used.includes(i.info.code)) ?? site.instruments[0]!).info
		.code;

const unitSuffix = (unit: string): string => (unit === 'mS/cm' ? 'mS' : unit === 'uS/cm' ? 'uS' : unit);
