import { useEffect, useMemo, useRef, useState } from 'react';
import type { Lot } from '@/contract/calibrations';
import type { Probe } from '@/contract/probes';
import { evaluateCalibration } from '@/core/probe/calibration';
import { likelyStandard, nominalValue, standardNamed } from '@/core/probe/standards';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { begin } from '../data/client';
import { type Held, unheld } from '../data/held';
import { followJob, pendingJob } from '../data/job';
import { ago } from '../ui/format';
import { FoundStep, type Nominal } from './FoundStep';
import { LeftSteps } from './LeftSteps';
import { LiveVerdict } from './LiveVerdict';
import { type Outcome, Result } from './Result';
import { SettleTimer } from './SettleTimer';
import { blank, keepDraft, keptDraft, type Step, start } from './step';
import { WrongBottle } from './WrongBottle';

/** Guided calibration: as found in every standard first, then adjust, then as left; or one dip to check. */
export function Calibrate({
	site: held,
	probes,
	lots,
	asked,
}: {
	site: Held<SiteView>;
	probes: Probe[];
	lots: Lot[];
	asked: Record<'instrument' | 'quantity', string | null>;
}) {
	const site = unheld(held);
	const key = (p: { instrument: string; quantity: string }) => `${p.instrument}|${p.quantity}`;
	const mostWanted = [...probes].sort((a, b) => Date.parse(a.due_at ?? '9999') - Date.parse(b.due_at ?? '9999'))[0];
	const [chosen, setChosen] = useState(
		asked.instrument && asked.quantity ? `${asked.instrument}|${asked.quantity}` : mostWanted ? key(mostWanted) : '',
	);
	const probe = probes.find((p) => key(p) === chosen) ?? probes[0];
	const q = probe?.quantity ?? 'ph';
	const [kind, setKind] = useState<'adjust' | 'check'>('adjust');
	const [temp, setTemp] = useState('');
	const [steps, setSteps] = useState<Step[]>(start(q));
	const [settle, setSettle] = useState<number | null>(null);
	const [doubtAccepted, setDoubtAccepted] = useState(false);
	const [busy, setBusy] = useState(false);
	const [problem, setProblem] = useState('');
	const [progress, setProgress] = useState('');
	const [outcome, setOutcome] = useState<Outcome | null>(null);
	const first = useRef<HTMLInputElement>(null);

	useEffect(() => {
		const kept = keptDraft();
		if (kept && (!asked.instrument || kept.chosen === `${asked.instrument}|${asked.quantity}`)) {
			setChosen(kept.chosen);
			setKind(kept.kind);
			setTemp(kept.temp);
			setSteps(kept.steps);
		}
		first.current?.focus();
		// Left while it was being worked out: take it up again.
		const running = pendingJob('calibration');
		if (running)
			followJob('POST /calibrations', 'calibration', running, setProgress).then(setOutcome, (e: Error) =>
				setProblem(e.message),
			);
	}, [asked]);
	useEffect(() => {
		if (temp || steps.some((s) => s.found)) keepDraft({ chosen, kind, temp, steps });
	}, [chosen, kind, temp, steps]);

	const tempC = decimal(temp.trim());
	const nominals = useMemo(
		() =>
			steps.map((s): Nominal | null => {
				const definition = standardNamed(s.standard);
				if (!definition || tempC === undefined || !probe) return null;
				const { compensates, alpha_pct_per_c: alphaPctPerC } = probe;
				const at = nominalValue(definition, tempC, { compensates, alphaPctPerC });
				return at.ok
					? { ok: true, value: at.value }
					: { ok: false, text: `its table runs from ${at.problem.low} to ${at.problem.high} °C` };
			}),
		[steps, tempC, probe],
	);
	if (!probe)
		return (
			<p>
				There is no meter with a probe yet.{' '}
				<a className="underline" href="/setup">
					Add one in Setup
				</a>
			</p>
		);
	const toCanonical = (text: string): number | null => {
		const v = decimal(text.trim());
		if (v === undefined) return null;
		// EC is typed as the site shows it.
		return q === 'ec' && site.units.ec === 'mS/cm' ? v * 1000 : v;
	};
	const points = steps.flatMap((s, i) => {
		const nominal = nominals[i];
		const found = toCanonical(s.found);
		return nominal?.ok && found !== null ? [{ nominal: nominal.value, asFound: found, mv: decimal(s.mv.trim()) }] : [];
	});
	const result = points.length > 0 && tempC !== undefined ? evaluateCalibration(q, points, tempC, settle) : null;
	const wrongBottle = steps
		.map((s, i) => {
			const named = standardNamed(s.standard);
			const found = toCanonical(s.found);
			return named && found !== null && tempC !== undefined ? { i, other: likelyStandard(named, found, tempC) } : null;
		})
		.find((w) => w?.other);
	const unit = q === 'ph' ? '' : site.units.ec === 'mS/cm' ? 'mS/cm' : 'µS/cm';
	const show = (v: number) =>
		q === 'ph' ? v.toFixed(2) : site.units.ec === 'mS/cm' ? (v / 1000).toFixed(3) : v.toFixed(0);
	const set = (i: number, change: Partial<Step>) => {
		setDoubtAccepted(false);
		setSteps((list) => list.map((s, k) => (k === i ? { ...s, ...change } : s)));
	};

	async function submit() {
		if (busy || !probe) return;
		setBusy(true);
		setProblem('');
		try {
			const body = {
				instrument: probe.instrument,
				quantity: q,
				kind,
				temp_c: tempC ?? null,
				settle_s: settle,
				accept_doubts: doubtAccepted,
				points: steps
					.filter((s) => s.found.trim() !== '')
					.map((s) => ({
						standard: s.standard,
						lot: s.lot,
						as_found: toCanonical(s.found),
						as_left: kind === 'adjust' ? toCanonical(s.left) : null,
						mv: decimal(s.mv.trim()) ?? null,
					})),
			};
			const job = await begin('POST /calibrations', { body });
			setOutcome(await followJob('POST /calibrations', 'calibration', job, setProgress));
			keepDraft(null);
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
			setProgress('');
		}
	}

	if (outcome)
		return (
			<Result
				outcome={outcome}
				probe={probe}
				onAgain={() => {
					setOutcome(null);
					setSteps(start(q));
					setSettle(null);
				}}
			/>
		);

	return (
		<form
			className="max-w-[46rem]"
			onSubmit={(e) => {
				e.preventDefault();
				submit();
			}}
		>
			<h1>Calibrate</h1>
			<div className="flex flex-wrap gap-3 items-end my-2">
				<label className="block w-52">
					<span className="field-label">Probe</span>
					<select
						className="field"
						value={key(probe)}
						onChange={(e) => {
							setChosen(e.target.value);
							setSteps(start(e.target.value.endsWith('|ec') ? 'ec' : 'ph'));
						}}
					>
						{probes.map((p) => (
							<option key={key(p)} value={key(p)}>
								{p.name}, {p.quantity === 'ph' ? 'pH' : 'EC'}
							</option>
						))}
					</select>
				</label>
				<fieldset className="flex gap-1" aria-label="Kind">
					<button
						type="button"
						className={`act ${kind === 'adjust' ? 'act-main' : '!font-normal !border-line'}`}
						aria-pressed={kind === 'adjust'}
						onClick={() => setKind('adjust')}
					>
						check, then adjust
					</button>
					<button
						type="button"
						className={`act ${kind === 'check' ? 'act-main' : '!font-normal !border-line'}`}
						aria-pressed={kind === 'check'}
						onClick={() => {
							setKind('check');
							setSteps((s) => s.slice(0, 1));
						}}
					>
						one dip, only check
					</button>
				</fieldset>
				<label className="block w-32">
					<span className="field-label">Standard at, °C</span>
					<input
						ref={first}
						id="c-temp"
						className="field"
						inputMode="decimal"
						placeholder="20"
						autoComplete="off"
						value={temp}
						onChange={(e) => setTemp(e.target.value)}
					/>
				</label>
			</div>
			<p className="text-soft text-[0.92rem]">
				{probe.last_at ? `Last calibrated ${ago(Date.parse(probe.last_at), site.now)}. ` : ''}Pour a little fresh
				standard into a clean cup; rinse and shake the probe before each; never pour back.
			</p>

			<h2 className="note-rule mt-3 !pb-1">1 · What it shows now, before touching anything</h2>
			{steps.map((step, i) => (
				<FoundStep
					key={i}
					number={i}
					step={step}
					quantity={q}
					nominal={nominals[i] ?? null}
					show={show}
					unit={unit}
					showsMv={probe.shows_mv}
					lots={lots}
					onChange={(change) => set(i, change)}
				/>
			))}
			<div className="flex flex-wrap gap-3 items-center">
				{kind === 'adjust' && steps.length < 3 && (
					<button
						type="button"
						className="act !font-normal"
						onClick={() =>
							setSteps([...steps, blank(q === 'ph' ? (steps.length === 1 ? 'pH 4.01' : 'pH 10.01') : 'KCl 2765')])
						}
					>
						Add a standard
					</button>
				)}
				{steps.length > 1 && (
					<button type="button" className="act !font-normal" onClick={() => setSteps(steps.slice(0, -1))}>
						One fewer
					</button>
				)}
				<SettleTimer onSettled={setSettle} />
			</div>
			{wrongBottle?.other && !doubtAccepted && (
				<WrongBottle
					found={steps[wrongBottle.i]!.found}
					other={wrongBottle.other.name}
					onOther={(standard) => set(wrongBottle.i, { standard })}
					onRight={() => setDoubtAccepted(true)}
				/>
			)}
			<LiveVerdict quantity={q} result={result} points={points.length} />
			{kind === 'adjust' && (
				<LeftSteps
					steps={steps}
					placeholders={nominals.map((n) => (n?.ok ? show(n.value) : ''))}
					onChange={(i, left) => set(i, { left })}
				/>
			)}
			{progress && <p aria-live="polite">{progress}</p>}
			{problem && (
				<p role="alert" className="text-error mt-2">
					{problem} What you typed is still here.
				</p>
			)}
			<button
				type="submit"
				className="act act-main mt-3"
				disabled={busy || !result?.ok || (wrongBottle?.other != null && !doubtAccepted)}
			>
				Save the {kind === 'adjust' ? 'calibration' : 'check'}
			</button>
		</form>
	);
}
