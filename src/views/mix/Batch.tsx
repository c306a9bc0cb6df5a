import { Suspense } from 'react';
import type { Tank } from '@/contract/pages';
import { batchCourse } from '@/core/mix/batch-course';
import { feedName } from '@/core/mix/feed/plan';
import { dateFormat } from '@/core/quantity/date-format';
import { shortDay } from '../ui/format';
import { later } from '../ui/later';
import { BatchForm } from './BatchForm';
import { fromBatch } from './batch-draft';
import { planOf } from './batch-plan';
import { EarlierBatches } from './EarlierBatches';
import { volumeWithUnit } from './typed';
import { useBatches } from './use-batches';
import { type MixThings, useMix } from './use-mix';

/** Only once a batch is under way, which the page never begins with. */
const BatchRun = later(() => import('./BatchRun'));

/** One mixing from empty to plants: planned, under way, and those before. What is under way goes on after a reload. */
export function Batch(given: MixThings) {
	const things = useMix(given);
	const { site, engine, tanks, products, waters } = things;
	const b = useBatches(things);
	const { batches, recipes, run, open, draft, problem } = b;
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const day = (at: number) => shortDay(at, site.timezone);
	const time = (at: number) =>
		dateFormat('en-GB', { timeZone: site.timezone, dateStyle: 'medium', timeStyle: 'short' }).format(at);

	if (feeds.length === 0 || tanks.length === 0 || waters.length === 0)
		return (
			<div>
				<p>A batch wants three things:</p>
				<ul className="list-disc pl-5 mt-1">
					{tanks.length === 0 && (
						<li>
							a tank, added in{' '}
							<a className="underline" href="/setup">
								Setup
							</a>
						</li>
					)}
					{waters.length === 0 && (
						<li>
							a source in{' '}
							<a className="underline" href="/setup">
								Setup
							</a>{' '}
							whose EC has been read at{' '}
							<a className="underline" href="/bench">
								Bench
							</a>
						</li>
					)}
					{feeds.length === 0 && (
						<li>
							a feed, under{' '}
							<a className="underline" href="/mix?part=products">
								products
							</a>
						</li>
					)}
				</ul>
			</div>
		);
	const tankOf = (code: string): Tank =>
		tanks.find((t) => t.code === code) ?? {
			code,
			name: code,
			volumeL: null,
			litresNow: null,
			phRange: null,
			ecRange: null,
			ph: null,
			ecUsCm: null,
			phAt: null,
			ecAt: null,
			ecDoubted: false,
			ecOvertaken: false,
			stage: null,
		};
	return (
		<div data-batch={run ? batchCourse(planOf(run.plan), run.log).phase : 'fill'}>
			{open.map((o) => (
				<p
					key={o.id}
					className="no-print border-l-4 border-secondary pl-3 py-1 mb-3 flex flex-wrap gap-3 items-center"
					data-open-batch={o.id}
				>
					<span>
						Under way: {o.plan.recipe || feedName(o.plan.pours)}, {volumeWithUnit(o.plan.litres, site.units)} in{' '}
						{tankOf(o.station).name}, begun {time(Date.parse(o.started_at))}.
					</span>
					<button type="button" className="act" onClick={() => b.setRunId(o.id)}>
						Go on with it
					</button>
					<button type="button" className="underline cursor-pointer min-h-10 text-soft" onClick={() => b.close(o)}>
						close it
					</button>
				</p>
			))}
			{run ? (
				<Suspense>
					<BatchRun
						key={run.id}
						site={site}
						engine={engine}
						batch={run}
						tank={tankOf(run.station)}
						products={products}
						waters={waters}
						onLog={(step, follows) => b.note(run.id, step, follows)}
					/>
					{run.finished_at !== null && (
						<button type="button" className="act mt-2" onClick={() => b.setRunId(null)}>
							Another batch
						</button>
					)}
				</Suspense>
			) : (
				<BatchForm
					units={site.units}
					draft={draft}
					onChange={b.setDraft}
					tanks={tanks}
					products={products}
					waters={waters}
					recipes={recipes}
					batches={batches}
					onBegin={b.begin}
					onRecipe={b.keepRecipe}
				/>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			<EarlierBatches
				units={site.units}
				batches={batches}
				tanks={tanks}
				day={day}
				onRepeat={(earlier) => {
					b.setDraft(
						fromBatch(
							draft,
							earlier,
							recipes.find((r) => r.name === earlier.plan.recipe),
							site.units,
						),
					);
					b.setRunId(null);
					scrollTo({ top: 0 });
				}}
			/>
		</div>
	);
}
