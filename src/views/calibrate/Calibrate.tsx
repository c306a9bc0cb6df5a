import { useEffect, useRef } from 'react';
import type { Lot } from '@/contract/calibrations';
import type { Probe } from '@/contract/probes';
import type { SiteView } from '@/core/reading/site-view';
import { type Held, unheld } from '../data/held';
import { ago } from '../ui/format';
import { FoundStep } from './FoundStep';
import { LeftSteps } from './LeftSteps';
import { LiveVerdict } from './LiveVerdict';
import { ProbeCurve } from './ProbeCurve';
import { Result } from './Result';
import { SettleTimer } from './SettleTimer';
import { probeKey, useCalibration } from './use-calibration';
import { WhatNow } from './WhatNow';
import { WrongBottle } from './WrongBottle';

const WITH_CURVE = 'grid lg:grid-cols-[minmax(0,47rem)_minmax(0,1fr)] gap-x-10 gap-y-4';

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
	const c = useCalibration(site, probes, lots, asked);
	const { s, probe, q, wrongBottle } = c;
	const first = useRef<HTMLInputElement>(null);
	useEffect(() => first.current?.focus(), []);
	if (!probe)
		return (
			<p>
				There is no meter with a probe yet.{' '}
				<a className="underline" href="/setup">
					Add one in Setup
				</a>
			</p>
		);
	const beside = <ProbeCurve instrument={probe.instrument} quantity={q} site={site} />;
	if (s.outcome)
		return (
			<div className={WITH_CURVE}>
				<Result
					outcome={s.outcome}
					probe={probe}
					onAgain={() => c.again(s.kind)}
					now={
						<WhatNow
							outcome={s.outcome}
							instrument={probe.instrument}
							quantity={q}
							kind={s.kind}
							tempC={c.tempC ?? null}
							onAdjust={() => c.again('adjust')}
						/>
					}
				/>
				{beside}
			</div>
		);
	return (
		<div className={WITH_CURVE}>
			<form
				className="max-w-[46rem]"
				onSubmit={(e) => {
					e.preventDefault();
					c.submit();
				}}
			>
				<h1>Calibrate</h1>
				<div className="flex flex-wrap gap-3 items-end my-2">
					<label className="block w-52">
						<span className="field-label">Probe</span>
						<select className="field" value={probeKey(probe)} onChange={(e) => c.choose(e.target.value)}>
							{probes.map((p) => (
								<option key={probeKey(p)} value={probeKey(p)}>
									{p.name}, {p.quantity === 'ph' ? 'pH' : 'EC'}
								</option>
							))}
						</select>
					</label>
					<fieldset className="flex gap-1" aria-label="Kind">
						{(['adjust', 'check'] as const).map((kind) => (
							<button
								key={kind}
								type="button"
								className={`act ${s.kind === kind ? 'act-main' : '!font-normal !border-line'}`}
								aria-pressed={s.kind === kind}
								onClick={() => c.setKind(kind)}
							>
								{kind === 'adjust' ? 'check, then adjust' : 'one dip, only check'}
							</button>
						))}
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
							value={s.temp}
							onChange={(e) => c.set({ temp: e.target.value })}
						/>
					</label>
				</div>
				<p className="text-soft text-[0.92rem]">
					{probe.last_at ? `Last calibrated ${ago(Date.parse(probe.last_at), site.now)}. ` : ''}Pour a little fresh
					standard into a clean cup; rinse and shake the probe before each; never pour back.
				</p>

				<h2 className="note-rule mt-3 !pb-1">1 · What it shows now, before touching anything</h2>
				{s.steps.map((step, i) => (
					<FoundStep
						key={i}
						number={i}
						step={step}
						quantity={q}
						nominal={c.nominals[i] ?? null}
						show={c.show}
						unit={c.unit}
						showsMv={probe.shows_mv}
						lots={lots}
						onChange={(change) => c.setStep(i, change)}
					/>
				))}
				<div className="flex flex-wrap gap-3 items-center">
					{s.kind === 'adjust' && s.steps.length < 3 && (
						<button type="button" className="act !font-normal" onClick={c.addStep}>
							Add a standard
						</button>
					)}
					{s.steps.length > 1 && (
						<button type="button" className="act !font-normal" onClick={c.dropStep}>
							One fewer
						</button>
					)}
					<SettleTimer onSettled={(settle) => c.set({ settle })} />
				</div>
				{wrongBottle && (
					<WrongBottle
						found={s.steps[wrongBottle.i]!.found}
						other={wrongBottle.other}
						lots={lots}
						onOther={(standard) => c.setStep(wrongBottle.i, { standard, lot: '' })}
						onRight={() => c.set({ doubtAccepted: true })}
					/>
				)}
				<LiveVerdict quantity={q} result={c.result} points={c.points.length} />
				{s.kind === 'adjust' && (
					<LeftSteps
						steps={s.steps}
						placeholders={c.nominals.map((n) => (n?.ok ? c.show(n.value) : ''))}
						onChange={(i, left) => c.setStep(i, { left })}
					/>
				)}
				{s.progress && <p aria-live="polite">{s.progress}</p>}
				{s.kept && <p data-calibration-kept>{s.kept}</p>}
				{s.problem && (
					<p role="alert" className="text-error mt-2">
						{s.problem} What you typed is still here.
					</p>
				)}
				<button
					type="submit"
					className="act act-main mt-3"
					disabled={s.busy || !c.result?.ok || wrongBottle !== undefined}
				>
					Save the {s.kind === 'adjust' ? 'calibration' : 'check'}
				</button>
			</form>
			{beside}
		</div>
	);
}
