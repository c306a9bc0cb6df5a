import { useEffect, useMemo, useRef, useState } from 'react';
import { driftUncertainty } from '@/core/probe/drift';
import { chanceInRange } from '@/core/probe/normal';
import { QUANTITY, type Quantity, seriesQuantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { fromWorking } from '@/core/reading/working-scale';
import { EventForm } from '../entry/EventForm';
import { fixedValue } from '../entry/fix';
import { type DraftSample, engineOf, judgeDraft, readingsOf, save } from '../entry/sample';
import { VerdictLine } from '../entry/VerdictLine';
import { age, unitLabel } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';
import { standingOf } from '../ui/standing';
import { SecondOpinion } from './SecondOpinion';
import { SettleWatch } from './SettleWatch';
import { type FieldValue, understandField } from './understand';

const FIELDS: readonly Quantity[] = ['ph', 'ec', 'temp'];
const EXAMPLE: Partial<Record<Quantity, string>> = { ph: '5.80', ec: '1.92', temp: '21.4' };
const DRAFT = 'cordwain.bench';

type Texts = Partial<Record<Quantity, string>>;
interface Draft {
	station: string;
	instrument: string | null;
	texts: Texts;
	second: { instrument: string; texts: Texts } | null;
	note: string;
}

/** The instrument last used here for a quantity, told by what the engine has seen. */
function lastInstrument(site: SiteView, station: string): string | null {
	let best: { instrument: string; at: number } | null = null;
	for (const [key, trace] of site.engine.traces) {
		const [s, quantity, instrument] = key.split('\u0000');
		if (
			s === station &&
			(quantity === 'ph' || quantity === 'ec') &&
			instrument &&
			(!best || trace.at > best.at || (trace.at === best.at && quantity === 'ph'))
		)
			best = { instrument, at: trace.at };
	}
	return best?.instrument ?? site.instruments[0]?.info.code ?? null;
}

const lastSeen = (site: SiteView, station: string): number | null => {
	let newest: number | null = null;
	for (const [key, trace] of site.engine.traces)
		if (key.startsWith(`${station}\u0000`) && (newest === null || trace.at > newest)) newest = trace.at;
	return newest;
};

export function Bench({ site, station: asked }: { site: SiteView; station: string | null }) {
	const start = asked && site.stations.some((s) => s.info.code === asked) ? asked : site.stations[0]!.info.code;
	const engine = useMemo(() => engineOf(site), [site]);
	const [draft, setDraft] = useState<Draft>({
		station: start,
		instrument: lastInstrument(site, start),
		texts: {},
		second: null,
		note: '',
	});
	const [busy, setBusy] = useState(false);
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const [waitS, setWaitS] = useState<number | null>(null);
	const [done, setDone] = useState<Set<string>>(new Set());
	const [clock, setClock] = useState(site.now);
	const fields = useRef<Partial<Record<string, HTMLInputElement | null>>>({});

	useEffect(() => {
		try {
			const kept = JSON.parse(localStorage.getItem(DRAFT) ?? 'null') as Draft | null;
			if (kept && (!asked || kept.station === asked) && site.stations.some((s) => s.info.code === kept.station))
				setDraft(kept);
		} catch {
			localStorage.removeItem(DRAFT);
		}
		fields.current.ph?.focus();
		setClock(Date.now());
	}, [asked, site]);

	const typedSomething = Object.values(draft.texts).some((t) => t) || draft.note !== '' || draft.second !== null;
	useEffect(() => {
		if (typedSomething) localStorage.setItem(DRAFT, JSON.stringify(draft));
	}, [draft, typedSomething]);

	const { info, name } = site.stations.find((s) => s.info.code === draft.station)!;
	const values = (texts: Texts, instrument: string | null): Partial<Record<Quantity, FieldValue>> => {
		const scale = site.instruments.find((i) => i.info.code === instrument)?.info.ppmScale ?? null;
		return Object.fromEntries(
			FIELDS.map((q) => [
				q,
				understandField(q, texts[q] ?? '', scale, site.units, engine.expect(draft.station, seriesQuantity(q), clock)),
			]),
		);
	};
	const first = values(draft.texts, draft.instrument);
	const second = draft.second && values(draft.second.texts, draft.second.instrument);
	const entries = [
		...FIELDS.flatMap((q) =>
			first[q]?.state === 'value' ? [{ row: 1 as const, q, v: first[q], instrument: draft.instrument }] : [],
		),
		...(second
			? FIELDS.flatMap((q) =>
					second[q]?.state === 'value'
						? [{ row: 2 as const, q, v: second[q], instrument: draft.second!.instrument }]
						: [],
				)
			: []),
	];
	const broken = [...Object.values(first), ...Object.values(second ?? {})].some((v) => v.state === 'problem');
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
		source: 'bench',
	};
	const verdicts = entries.length > 0 ? judgeDraft(engine, sample) : [];
	const readings = readingsOf(sample, clock);
	const firstFix = verdicts.findIndex((v) => v.deciding?.suggested != null);

	function choose(station: string) {
		setDraft((d) => ({ ...d, station, instrument: lastInstrument(site, station), second: null }));
		fields.current.ph?.focus();
	}
	function move(step: 1 | -1) {
		const list = site.stations.map((s) => s.info.code);
		choose(list[(list.indexOf(draft.station) + step + list.length) % list.length]!);
	}
	function setText(row: 1 | 2, q: Quantity, text: string) {
		setSaid('');
		setDraft((d) =>
			row === 1
				? { ...d, texts: { ...d.texts, [q]: text } }
				: { ...d, second: d.second && { ...d.second, texts: { ...d.second.texts, [q]: text } } },
		);
	}
	function fix(index: number) {
		const e = entries[index]!;
		const suggested = verdicts[index]!.deciding!.suggested!;
		// Swapped values are exchanged together: one alone would leave the other wrong.
		if (verdicts[index]!.deciding!.cause === 'swapped')
			for (const [i, other] of entries.entries()) {
				const s = verdicts[i]!.deciding;
				if (other.row === e.row && s?.cause === 'swapped' && s.suggested !== null)
					setText(other.row, other.q, fixedValue(s.suggested, other.v.unit, '0.00'));
			}
		else if (
			verdicts[index]!.deciding!.cause === 'unit-slip' ||
			verdicts[index]!.deciding!.cause === 'scale-mismatch'
		) {
			const unit = e.q === 'ec' ? site.units.ec : e.v.unit;
			setText(e.row, e.q, `${fixedValue(suggested, unit, e.v.digits)}${e.q === 'ec' ? unitSuffix(unit) : ''}`);
		} else setText(e.row, e.q, fixedValue(suggested, e.v.unit, e.v.digits));
		fields.current[e.row === 1 ? e.q : `2${e.q}`]?.focus();
	}

	async function submit() {
		if (busy || broken || entries.length === 0) return;
		setBusy(true);
		setProblem('');
		try {
			const now = Date.now();
			const result = await save([{ ...sample, at: now }]);
			engine.take(readingsOf({ ...sample, at: now }, now));
			localStorage.removeItem(DRAFT);
			const list = site.stations.map((s) => s.info.code);
			const next = list[(list.indexOf(draft.station) + 1) % list.length]!;
			setDone((d) => new Set(d).add(draft.station));
			setSaid(result.kind === 'stored' ? `${name} saved. u takes it back (outside a field).` : result.message);
			setWaitS(null);
			setDraft({ station: next, instrument: lastInstrument(site, next), texts: {}, second: null, note: '' });
			setClock(Date.now());
			window.dispatchEvent(new Event(result.kind === 'stored' ? 'cordwain:changed' : 'cordwain:kept'));
			fields.current.ph?.focus();
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}

	/** The instrument's own uncertainty with what its probe may have drifted since its last calibration. */
	function uOf(e: (typeof entries)[number], u: number, value: number): number {
		const q = seriesQuantity(e.v.quantity);
		const probe =
			q === 'ph' || q === 'ec' ? site.instruments.find((i) => i.info.code === e.instrument)?.probes[q] : undefined;
		if (!probe) return u;
		const drift = driftUncertainty(
			{ ...probe, from: 0 },
			probe.lastAt === null ? 30 : (clock - probe.lastAt) / 86_400_000,
		);
		return Math.hypot(u, q === 'ph' ? drift : (drift / 100) * value);
	}

	const ecExpected = engine.expect(draft.station, 'ec', clock);
	const ecHere = ecExpected && ecExpected.from > 0 ? fromWorking('ec', ecExpected.level) : null;

	/** The quantities that both instruments measured. */
	const pairs = (['ph', 'ec'] as const).flatMap((q) => {
		const [a, b] = entries.flatMap((e, i) => {
			if (seriesQuantity(e.v.quantity) !== q) return [];
			const instrument = site.instruments.find((x) => x.info.code === e.instrument);
			const value = readings[i]!.value;
			return [
				{
					row: e.row,
					name: instrument?.name ?? 'the unnamed meter',
					value,
					u: uOf(e, verdicts[i]!.u, value),
					lastCheckedAt: instrument?.probes[q]?.lastAt ?? null,
				},
			];
		});
		return a && b && a.row !== b.row ? [{ q, a, b }] : [];
	});

	const row = (n: 1 | 2, texts: Texts, understood: Partial<Record<Quantity, FieldValue>>) => (
		<div className="grid grid-cols-3 gap-3">
			{FIELDS.map((q) => {
				const v = understood[q]!;
				const id = n === 1 ? q : `2${q}`;
				return (
					<div key={id}>
						<label className="field-label" htmlFor={`f-${id}`}>
							{QUANTITY[q].name}{' '}
							<span>{q === 'ec' ? unitLabel(site.units.ec) : q === 'temp' ? unitLabel(site.units.temp) : ''}</span>
						</label>
						<input
							id={`f-${id}`}
							ref={(el) => {
								fields.current[id] = el;
							}}
							className="field !text-[1.6rem] !min-h-14"
							style={{ borderBottom: `3px solid var(--q-${q})` }}
							inputMode="decimal"
							autoComplete="off"
							placeholder={EXAMPLE[q]}
							value={texts[q] ?? ''}
							aria-invalid={v.state === 'problem'}
							aria-describedby={`h-${id}`}
							onChange={(e) => setText(n, q, e.target.value)}
							onKeyDown={(e) => {
								if (e.key === 'Enter') {
									e.preventDefault();
									submit();
								} else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
									e.preventDefault();
									move(e.key === 'ArrowDown' ? 1 : -1);
								} else if (e.key === 'f' && firstFix >= 0 && !/[a-z]$/i.test(texts[q] ?? '')) {
									e.preventDefault();
									fix(firstFix);
								}
							}}
						/>
						<p
							id={`h-${id}`}
							className={`text-[0.85rem] min-h-5 ${v.state === 'problem' ? 'text-error' : 'text-soft'}`}
						>
							{v.state === 'problem'
								? v.message
								: v.state === 'value'
									? v.marked || v.unit !== (q === 'ec' ? site.units.ec : q === 'temp' ? site.units.temp : 'pH')
										? `read as ${v.digits} ${unitLabel(v.unit)}`
										: ''
									: ''}
						</p>
					</div>
				);
			})}
		</div>
	);

	return (
		<div className="grid lg:grid-cols-[15rem_1fr] gap-x-8 gap-y-3">
			<div>
				<h1 className="mb-2">Bench</h1>
				<div className="sm:hidden">
					<label className="field-label" htmlFor="station">
						Station
					</label>
					<select id="station" className="field" value={draft.station} onChange={(e) => choose(e.target.value)}>
						{site.stations.map((s) => (
							<option key={s.info.code} value={s.info.code}>
								{s.name}
							</option>
						))}
					</select>
				</div>
				<ul className="hidden sm:block" aria-label="Stations">
					{site.stations.map((s) => {
						const seen = lastSeen(site, s.info.code);
						return (
							<li key={s.info.code}>
								<button
									type="button"
									tabIndex={-1}
									aria-pressed={s.info.code === draft.station}
									onClick={() => choose(s.info.code)}
									className={`w-full flex justify-between text-left px-2 py-1.5 border-l-4 cursor-pointer ${s.info.code === draft.station ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
								>
									<span>{s.name}</span>
									<span className="text-soft font-normal text-[0.85rem]">
										{done.has(s.info.code) ? 'just now' : seen === null ? '' : age(seen, clock)}
									</span>
								</button>
							</li>
						);
					})}
				</ul>
				<p className="hidden sm:block text-soft text-[0.85rem] mt-2">
					<kbd>↑</kbd> <kbd>↓</kbd> change the station
				</p>
			</div>
			<form
				onSubmit={(e) => {
					e.preventDefault();
					submit();
				}}
			>
				<div className="flex flex-wrap items-end gap-3 mb-3">
					<h2 className="text-[1.35rem] grow">{name}</h2>
					<div className="w-44">
						<label className="field-label" htmlFor="instrument">
							Measured with
						</label>
						<select
							id="instrument"
							className="field"
							value={draft.instrument ?? ''}
							onChange={(e) => setDraft((d) => ({ ...d, instrument: e.target.value || null }))}
						>
							<option value="">not said</option>
							{site.instruments.map((i) => (
								<option key={i.info.code} value={i.info.code}>
									{i.name}
								</option>
							))}
						</select>
					</div>
				</div>
				{row(1, draft.texts, first)}
				{draft.second && (
					<>
						<div className="w-44 mb-2">
							<label className="field-label" htmlFor="instrument2">
								and with
							</label>
							<select
								id="instrument2"
								className="field"
								value={draft.second.instrument}
								onChange={(e) =>
									setDraft((d) => ({ ...d, second: d.second && { ...d.second, instrument: e.target.value } }))
								}
							>
								{site.instruments.map((i) => (
									<option key={i.info.code} value={i.info.code}>
										{i.name}
									</option>
								))}
							</select>
						</div>
						{row(2, draft.second.texts, second!)}
					</>
				)}
				<div className="flex flex-wrap gap-3 items-end mb-2">
					{!draft.second && site.instruments.length > 1 && (
						<button
							type="button"
							className="act !font-normal"
							onClick={() =>
								setDraft((d) => ({
									...d,
									second: {
										instrument: site.instruments.find((i) => i.info.code !== d.instrument)!.info.code,
										texts: {},
									},
								}))
							}
						>
							Add a second instrument
						</button>
					)}
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
					{said && (
						<p className="border-l-4 border-secondary pl-3 py-1" data-saved>
							{said}
						</p>
					)}
					{entries.length === 0 && !said && (
						<p className="text-soft mt-2 max-w-[60ch]">
							Type what the display says; the verdict comes as you type. The decimal mark may be left out: 58 is read as
							5.8. A unit may follow the number: 950ppm, 1920uS, 70F; a drop kit takes an interval, 5.0..6.0.
						</p>
					)}
					{verdicts.map((v, i) => {
						const e = entries[i]!;
						const range = info.ranges[seriesQuantity(e.v.quantity)] ?? null;
						return (
							<div
								key={`${e.row}${e.q}`}
								className="grid sm:grid-cols-[190px_1fr] gap-x-5 items-start border-t border-line pt-2 mt-2"
							>
								<GaugeStrip
									quantity={e.q}
									value={readings[i]!.value}
									u={uOf(e, v.u, readings[i]!.value)}
									range={range}
									standing={standingOf({ flag: v.flag, decision: null })}
									units={site.units}
									ends
								/>
								<VerdictLine
									chance={
										range && v.flag < 3
											? chanceInRange(readings[i]!.value, uOf(e, v.u, readings[i]!.value), range)
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
					{pairs.map(({ q, a, b }) => (
						<SecondOpinion key={q} quantity={q} a={a} b={b} now={clock} units={site.units} />
					))}
				</div>
			</form>
			<div className="lg:col-start-2">
				<SettleWatch
					key={`${draft.station}${done.size}`}
					ecHereUsCm={ecHere}
					onWaited={setWaitS}
					onSettled={(q, digits) => setText(1, q, digits)}
				/>
				<EventForm site={site} station={draft.station} onLogged={setSaid} />
			</div>
		</div>
	);
}

const unitSuffix = (unit: string): string => (unit === 'mS/cm' ? 'mS' : unit === 'uS/cm' ? 'uS' : unit);
