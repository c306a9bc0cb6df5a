import { useState } from 'react';
import type { BatchStep, StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { type BatchPhase, batchCourse } from '@/core/mix/batch-course';
import { feedName } from '@/core/mix/feed/plan';
import type { SiteView } from '@/core/reading/site-view';
import { batchLog } from './batch-log';
import { planOf } from './batch-plan';
import { PourPart } from './PourPart';
import { RunEc } from './RunEc';
import { RunPh } from './RunPh';
import { SoFar } from './SoFar';
import { ecShown, volumeWithUnit } from './typed';
import { PHASE_WORDS, poured, pouredAmount } from './words';

/** A batch under way: one step at a time, each with what it should show and what it does. */
export default function BatchRun({
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
	/** A step was kept with the batch, after so many others. */
	onLog: (step: BatchStep, follows: number) => void;
}) {
	const { plan } = batch;
	const water = waters.find((w) => w.code === plan.water);
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	const course = batchCourse(planOf(plan), batch.log);
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
	const log = batchLog(engine, site, batch, onLog);
	const pour = () =>
		attempt(async () => {
			const p = plan.pours[course.part]!;
			const amount = pouredAmount(p.per_l * plan.litres);
			const which = p.bottle ? `part ${p.bottle}` : '';
			await log.did('part', `${poured(amount)} ${p.unit} of ${which || p.product}`, { amount }, [
				{ kind: 'nutrient_added', amount, unit: p.unit, product: p.product, note: which },
			]);
		});
	const phases: BatchPhase[] = plan.ph_first ? ['water-ph', 'parts', 'ec', 'ph'] : ['parts', 'ec', 'ph'];
	const step = { site, engine, batch, course, tank, log, busy, attempt };
	return (
		<div data-batch-run={course.phase}>
			<div className="flex flex-wrap gap-x-5 gap-y-1 items-baseline mb-2">
				<h2 className="text-[1.2rem]">
					{plan.recipe || feedName(plan.pours)}: {volumeWithUnit(plan.litres, site.units)} of{' '}
					{water?.name ?? plan.water} in {tank.name}
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
							batch={batch}
							part={course.part}
							label={products.find((p) => p.name === plan.pours[course.part]!.product)?.rate_text ?? ''}
							busy={busy}
							onDone={pour}
						/>
					)}
					{course.phase === 'ec' && <RunEc {...step} water={water} />}
					{(course.phase === 'ph' || course.phase === 'water-ph') && <RunPh {...step} products={products} />}
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
				<SoFar log={batch.log} mS={(v) => ecShown(v, site.units)} />
			</div>
		</div>
	);
}
