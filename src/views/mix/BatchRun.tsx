import { useState } from 'react';
import type { BatchStep, StoredBatch } from '@/contract/batches';
import { camelKeys } from '@/contract/names';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { type BatchPhase, batchCourse, ecIsRight } from '@/core/mix/batch-course';
import { dilute } from '@/core/mix/dilute';
import { inLabelMeasure } from '@/core/mix/label-rate';
import type { SiteView } from '@/core/reading/site-view';
import { Choice } from '../setup/fields';
import { batchLog } from './batch-log';
import { CorrectEc, LEAST_DRAIN_L } from './CorrectEc';
import { Dose } from './Dose';
import { logEvent } from './log-event';
import { MeasureHere } from './MeasureHere';
import { letter, PourPart } from './PourPart';
import { SoFar } from './SoFar';
import { ecShown, ecUnit } from './typed';
import { gainOf, PHASE_WORDS, poured } from './words';

/** A batch under way: one step at a time, each with what it should show and what it does. */
export function BatchRun({
	site,
	engine,
	batch,
	tank,
	products,
	waters,
	onLog,
}: {
	site: SiteView;
	engine: Engine;
	batch: StoredBatch;
	tank: Tank;
	products: Product[];
	waters: KnownWater[];
	/** A step was kept with the batch. */
	onLog: (step: BatchStep) => void;
}) {
	const { plan } = batch;
	const mS = (v: number) => ecShown(v, site.units);
	const feed = products.find((p) => p.name === plan.product);
	const water = waters.find((w) => w.code === plan.water);
	const changers = products.filter((p) => p.kind !== 'nutrient');
	const [chosen, setChosen] = useState(changers.find((a) => a.kind === 'acid')?.name ?? changers[0]?.name ?? '');
	const changer = changers.find((a) => a.name === chosen);
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	const course = batchCourse(camelKeys(plan), batch.log);
	const unit = plan.unit ?? 'mL';
	const each = plan.ml_per_l * plan.litres;
	const asLabel = feed?.rate_text ? inLabelMeasure(each, feed.rate_text) : null;
	const target = plan.target_ec_us_cm;

	const attempt = async (work: () => Promise<void>) => {
		if (busy) return;
		setBusy(true);
		try {
			await work();
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	};
	const log = batchLog(engine, site.units, batch, onLog);

	const part = () =>
		attempt(async () => {
			const which = plan.parts > 1 ? `part ${letter(course.part)}` : '';
			await log.did(
				'part',
				`${poured(each)} ${unit} of ${which || plan.product}`,
				{ amount: each },
				{ kind: 'nutrient_added', amount: each, unit, product: plan.product, note: which },
			);
		});
	const seen = course.seenEcUsCm;
	const tooHigh = seen !== null && target !== null && seen > target && !ecIsRight(seen, target);
	const tooLow = seen !== null && target !== null && seen < target && !ecIsRight(seen, target);
	const correction =
		tooHigh && water
			? dilute({
					volumeL: plan.litres,
					ecUsCm: seen,
					targetEcUsCm: target,
					withEcUsCm: water.ecUsCm,
					capacityL: tank.volumeL ? Math.max(tank.volumeL, plan.litres) : undefined,
				})
			: null;
	const gain = feed && gainOf(feed);
	// What this very batch has shown of its feed says more than the batches before it.
	const shown = seen !== null && plan.ml_per_l > 0 ? (seen - plan.water_ec_us_cm) / plan.ml_per_l : Number.NaN;
	const more = tooLow ? ((target - seen) / (shown > 0 ? shown : (gain ?? Number.NaN))) * plan.litres : Number.NaN;
	const correct = () =>
		attempt(async () => {
			if (correction?.ok) {
				const [drain, add] = [Math.round(correction.value.drainL), Math.round(correction.value.addL)];
				const drains = correction.value.drainL > LEAST_DRAIN_L;
				if (drains) await logEvent(engine, batch.station, { kind: 'drained', amount: drain, unit: 'L', product: '' });
				await log.did(
					'diluted',
					`${drains ? `${drain} L drained, ` : ''}${add} L of ${water!.name} added`,
					{ expected: target, amount: add },
					{ kind: 'water_added', amount: add, unit: 'L', product: water!.name },
				);
			} else if (more > 0) {
				await log.did(
					'fed',
					`${poured(more)} ${unit} more${plan.parts > 1 ? ' of each part' : ''}`,
					{ expected: target, amount: more },
					{ kind: 'nutrient_added', amount: more, unit, product: plan.product },
				);
			}
		});
	const next = (words: string) => attempt(() => log.did('next', words));
	const phases: BatchPhase[] = plan.ph_first ? ['water-ph', 'parts', 'ec', 'ph'] : ['parts', 'ec', 'ph'];
	const inPh = course.phase === 'ph' || course.phase === 'water-ph';

	return (
		<div data-batch-run={course.phase}>
			<div className="flex flex-wrap gap-x-5 gap-y-1 items-baseline mb-2">
				<h2 className="text-[1.2rem]">
					{plan.recipe || plan.product}: {plan.litres} L of {water?.name ?? plan.water} in {tank.name}
				</h2>
				<ol className="flex gap-3 text-[0.95rem]" aria-label="Steps">
					{phases.map((p) => (
						<li
							key={p}
							aria-current={p === course.phase ? 'step' : undefined}
							className={p === course.phase ? 'font-bold border-b-2 border-base-content' : 'text-soft'}
						>
							{PHASE_WORDS[p]}
						</li>
					))}
				</ol>
			</div>
			<div className="grid lg:grid-cols-[1fr_18rem] gap-x-8 gap-y-3">
				<div>
					{course.phase === 'parts' && (
						<PourPart
							each={each}
							unit={unit}
							plan={plan}
							part={course.part}
							asLabel={asLabel}
							busy={busy}
							onDone={part}
						/>
					)}
					{course.phase === 'ec' && seen === null && (
						<MeasureHere
							key={`ec${batch.log.length}`}
							site={site}
							engine={engine}
							station={batch.station}
							quantity="ec"
							note="batch"
							aim={course.expectedEcUsCm}
							keep={log.reading('ec', course.expectedEcUsCm)}
						>
							<p className="mb-1">
								Measure EC once it has mixed.
								{course.expectedEcUsCm !== null && (
									<>
										{' '}
										Expected: <strong>{mS(course.expectedEcUsCm)}</strong> {ecUnit(site.units)}.
									</>
								)}
							</p>
						</MeasureHere>
					)}
					{course.phase === 'ec' && seen !== null && (
						<CorrectEc
							seen={seen}
							target={target!}
							tooHigh={tooHigh}
							tooLow={tooLow}
							correction={correction}
							more={more}
							plan={{ unit, parts: plan.parts, water: water?.name ?? '' }}
							units={site.units}
							onDone={correct}
							onLeave={() => next(`EC ${mS(seen)} left as it is`)}
						/>
					)}
					{inPh && (
						<div>
							<div className="flex flex-wrap gap-3 items-end mb-2">
								{changers.length > 0 && (
									<Choice
										label="with"
										width="w-40"
										value={chosen}
										options={changers.map((a) => a.name)}
										onChange={setChosen}
									/>
								)}
								{course.phase === 'ph' ? (
									<button
										type="button"
										className="act !font-normal"
										disabled={busy}
										onClick={() => attempt(() => log.did('done', 'done'))}
									>
										Finish the batch
									</button>
								) : (
									<button
										type="button"
										className="act !font-normal"
										data-next
										disabled={busy}
										onClick={() => next('on to the feed')}
									>
										On to the feed
									</button>
								)}
							</div>
							{!course.phRead ? (
								<MeasureHere
									key={course.phase}
									site={site}
									engine={engine}
									station={batch.station}
									quantity="ph"
									note="batch"
									keep={log.reading('ph', null)}
								>
									<p className="mb-1">
										{course.phase === 'ph'
											? `${plan.ph_first ? 'The feed has pulled it down: look at it once more' : 'EC is right: now the pH, which comes last'}.`
											: 'First the pH of the plain water. It is done again at the end, because the feed pulls it down.'}
									</p>
								</MeasureHere>
							) : (
								changer &&
								plan.target_ph !== null && (
									<Dose
										key={course.phase}
										site={site}
										engine={engine}
										tank={{ ...tank, volumeL: plan.litres }}
										product={changer}
										targetPh={plan.target_ph}
										batch={log}
									/>
								)
							)}
							{changers.length === 0 && <p>There is no acid or base under Products: the pH is kept as it was read.</p>}
						</div>
					)}
					{course.phase === 'done' && (
						<p className="text-[1.15rem]" data-batch-done>
							The batch is done and kept; its readings are in the Ledger and on the Trends.
						</p>
					)}
					{problem && (
						<p role="alert" className="text-error">
							{problem}
						</p>
					)}
				</div>
				<SoFar log={batch.log} mS={mS} />
			</div>
		</div>
	);
}
