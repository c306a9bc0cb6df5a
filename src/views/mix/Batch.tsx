import { useCallback, useState } from 'react';
import type { Engine } from '@/core/judge/engine';
import { batchCourse } from '@/core/mix/batch-course';
import type { SiteView } from '@/core/reading/site-view';
import type { Change } from '@/server/contract';
import { api } from '../api';
import { useChanges } from '../bench/JustIn';
import { type BatchDraft, BatchForm, emptyBatch, fromBatch, fromRecipe } from './BatchForm';
import { BatchRun } from './BatchRun';
import { EarlierBatches } from './EarlierBatches';
import { logEvent } from './log-event';
import type { BatchSummary, Product, Recipe, Tank, WaterChoiceOf } from './types';

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
	waters: WaterChoiceOf[];
	recipes: Recipe[];
	batches: BatchSummary[];
	askedRecipe: string | null;
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const [batches, setBatches] = useState(keptBatches);
	const [recipes, setRecipes] = useState(keptRecipes);
	const [runId, setRunId] = useState<number | null>(null);
	const [problem, setProblem] = useState('');
	const [draft, setDraft] = useState<BatchDraft>(() => {
		const empty = emptyBatch(tanks[0], feeds[0], waters[0]?.code ?? '', site.units);
		const recipe = recipes.find((r) => r.name === askedRecipe);
		return recipe ? fromRecipe(empty, recipe, site.units) : empty;
	});
	const day = (at: number) =>
		new Intl.DateTimeFormat('en-GB', { timeZone: site.timezone, day: 'numeric', month: 'short' }).format(at);
	const time = (at: number) =>
		new Intl.DateTimeFormat('en-GB', { timeZone: site.timezone, dateStyle: 'medium', timeStyle: 'short' }).format(at);
	const run = batches.find((b) => b.id === runId);
	const open = batches.filter((b) => b.finishedAt === null && b.id !== runId);

	// Somebody else may be at the same tank: what they did is in the log as well.
	const runStation = run?.station;
	const onChange = useCallback(
		async (change: Change) => {
			if (change.kind !== 'event' || change.station !== runStation || runId === null) return;
			const { batches: fresh } = await api<{ batches: { id: number; log: BatchSummary['log'] }[] }>('/batches');
			const log = fresh.find((b) => b.id === runId)?.log;
			if (log) setBatches((list) => list.map((b) => (b.id === runId && log.length > b.log.length ? { ...b, log } : b)));
		},
		[runId, runStation],
	);
	useChanges(onChange);

	async function begin(station: string, plan: BatchSummary['plan']) {
		try {
			let id = 0;
			await logEvent(
				engine,
				station,
				{
					kind: 'solution_changed',
					amount: plan.litres,
					unit: 'L',
					product: waters.find((w) => w.code === plan.water)!.name,
				},
				async (filling) => {
					const json = {
						station,
						event: filling,
						plan: {
							litres: plan.litres,
							water: plan.water,
							water_ec_us_cm: plan.waterEcUsCm,
							product: plan.product,
							ml_per_l: plan.mlPerL,
							unit: plan.unit,
							parts: plan.parts,
							target_ec_us_cm: plan.targetEcUsCm,
							expected_ec_us_cm: plan.expectedEcUsCm,
							target_ph: plan.targetPh,
							recipe: plan.recipe,
							strength: plan.strength,
							ph_first: plan.phFirst,
						},
					};
					id = (await api<{ id: number }>('/batches', { json })).id;
				},
			);
			setBatches((list) => [
				{ id, station, startedAt: Date.now(), finishedAt: null, name: '', plan, log: [] },
				...list,
			]);
			setRunId(id);
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	const note = (id: number, step: BatchSummary['log'][number]) =>
		setBatches((list) =>
			list.map((b) =>
				b.id === id ? { ...b, log: [...b.log, step], finishedAt: step.step === 'done' ? step.at : b.finishedAt } : b,
			),
		);
	async function close(b: BatchSummary) {
		const step = { step: 'done', expected: null, measured: null, words: 'closed unfinished' };
		try {
			await api(`/batches/${b.id}/steps`, { json: step });
			note(b.id, { ...step, at: Date.now() });
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
		};
	return (
		<div data-batch={run ? batchCourse(run.plan, run.log).phase : 'fill'}>
			{open.map((b) => (
				<p
					key={b.id}
					className="no-print border-l-4 border-secondary pl-3 py-1 mb-3 flex flex-wrap gap-3 items-center"
					data-open-batch={b.id}
				>
					<span>
						Under way: {b.plan.recipe || b.plan.product}, {b.plan.litres} L in {tankOf(b.station).name}, begun{' '}
						{time(b.startedAt)}.
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
					{run.finishedAt !== null && (
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
					setDraft(fromBatch(draft, b, site.units));
					setRunId(null);
					scrollTo({ top: 0 });
				}}
			/>
		</div>
	);
}
