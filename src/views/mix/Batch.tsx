import { useCallback, useState } from 'react';
import type { BatchPlan, BatchStep, StoredBatch } from '@/contract/batches';
import type { Change } from '@/contract/meters';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { batchCourse } from '@/core/mix/batch-course';
import { feedName } from '@/core/mix/feed/plan';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../bench/JustIn';
import { api } from '../data/client';
import { BatchForm } from './BatchForm';
import { BatchRun } from './BatchRun';
import { type BatchDraft, emptyBatch, fromBatch, fromRecipe, usualFeed } from './batch-draft';
import { batchLog } from './batch-log';
import { planOf } from './batch-plan';
import { EarlierBatches } from './EarlierBatches';
import { logEvents } from './log-event';

/** One mixing from empty to plants: planned, under way, and those before. What is under way goes on after a reload. */
export function Batch({
	site,
	engine,
	tanks,
	products,
	waters,
	recipes: keptRecipes,
	batches: keptBatches,
	askedRecipe,
}: {
	site: SiteView;
	engine: Engine;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	batches: StoredBatch[];
	askedRecipe: string | null;
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const [batches, setBatches] = useState(keptBatches);
	const [recipes, setRecipes] = useState(keptRecipes);
	const [runId, setRunId] = useState<number | null>(null);
	const [problem, setProblem] = useState('');
	const [draft, setDraft] = useState<BatchDraft>(() => {
		const empty = emptyBatch(tanks[0], usualFeed(products, batches, tanks[0]?.code), waters[0]?.code ?? '', site.units);
		const recipe = recipes.find((r) => r.name === askedRecipe);
		return recipe ? fromRecipe(empty, recipe, site.units, products) : empty;
	});
	const day = (at: number) =>
		new Intl.DateTimeFormat('en-GB', { timeZone: site.timezone, day: 'numeric', month: 'short' }).format(at);
	const time = (at: number) =>
		new Intl.DateTimeFormat('en-GB', { timeZone: site.timezone, dateStyle: 'medium', timeStyle: 'short' }).format(at);
	const run = batches.find((b) => b.id === runId);
	const open = batches.filter((b) => b.finished_at === null && b.id !== runId);

	// Somebody else may be at the same tank: what they did is in the log as well.
	const runStation = run?.station;
	const onChange = useCallback(
		async (change: Change) => {
			if (change.kind !== 'event' || change.station !== runStation || runId === null) return;
			const { batches: fresh } = await api('GET /batches');
			const log = fresh.find((b) => b.id === runId)?.log;
			if (log) setBatches((list) => list.map((b) => (b.id === runId && log.length > b.log.length ? { ...b, log } : b)));
		},
		[runId, runStation],
	);
	useChanges(onChange);

	async function begin(station: string, plan: BatchPlan) {
		try {
			let id = 0;
			const water = waters.find((w) => w.code === plan.water)!.name;
			await logEvents(
				engine,
				station,
				[{ kind: 'solution_changed', amount: plan.litres, unit: 'L', product: water }],
				async ([filling]) => {
					id = (await api('POST /batches', { body: { station, event: filling!, plan } })).id;
				},
			);
			setBatches((list) => [
				{ id, station, started_at: formatTime(Date.now()), finished_at: null, name: '', plan, log: [] },
				...list,
			]);
			setRunId(id);
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	const note = (id: number, step: BatchStep) =>
		setBatches((list) =>
			list.map((b) =>
				b.id === id
					? { ...b, log: [...b.log, step], finished_at: step.step === 'done' ? step.time : b.finished_at }
					: b,
			),
		);
	async function close(b: StoredBatch) {
		try {
			await batchLog(engine, site.units, b, (step) => note(b.id, step)).did('done', 'closed unfinished');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}

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
			phRange: null,
			ecRange: null,
			ph: null,
			ecUsCm: null,
			phAt: null,
			ecAt: null,
			ecDoubted: false,
		};
	return (
		<div data-batch={run ? batchCourse(planOf(run.plan), run.log).phase : 'fill'}>
			{open.map((b) => (
				<p
					key={b.id}
					className="no-print border-l-4 border-secondary pl-3 py-1 mb-3 flex flex-wrap gap-3 items-center"
					data-open-batch={b.id}
				>
					<span>
						Under way: {b.plan.recipe || feedName(b.plan.pours)}, {b.plan.litres} L in {tankOf(b.station).name}, begun{' '}
						{time(Date.parse(b.started_at))}.
					</span>
					<button type="button" className="act" onClick={() => setRunId(b.id)}>
						Go on with it
					</button>
					<button type="button" className="underline cursor-pointer min-h-10 text-soft" onClick={() => close(b)}>
						close it
					</button>
				</p>
			))}
			{run ? (
				<>
					<BatchRun
						key={run.id}
						site={site}
						engine={engine}
						batch={run}
						tank={tankOf(run.station)}
						products={products}
						waters={waters}
						onLog={(step) => note(run.id, step)}
					/>
					{run.finished_at !== null && (
						<button type="button" className="act mt-2" onClick={() => setRunId(null)}>
							Another batch
						</button>
					)}
				</>
			) : (
				<BatchForm
					units={site.units}
					draft={draft}
					onChange={setDraft}
					tanks={tanks}
					products={products}
					waters={waters}
					recipes={recipes}
					batches={batches}
					onBegin={begin}
					onRecipe={(r) => setRecipes((list) => [...list.filter((x) => x.name !== r.name), r])}
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
				onRepeat={(b) => {
					setDraft(
						fromBatch(
							draft,
							b,
							recipes.find((r) => r.name === b.plan.recipe),
							site.units,
						),
					);
					setRunId(null);
					scrollTo({ top: 0 });
				}}
			/>
		</div>
	);
}
