import { useCallback, useEffect, useRef, useState } from 'react';
import type { BatchPlan, BatchStep, StoredBatch } from '@/contract/batches';
import type { Change } from '@/contract/meters';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../data/changes';
import { ApiProblem, api } from '../data/client';
import { type BatchDraft, emptyBatch, fromRecipe, usualFeed } from './batch-draft';
import { batchLog, goneOn, waitingSteps } from './batch-log';
import { logEvents } from './log-event';

/** What a batch is planned and made with. */
export interface BatchThings {
	site: SiteView;
	engine: Engine;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	batches: StoredBatch[];
	askedRecipe: string | null;
}

/** Batches planned, under way and done; what is under way follows what others do to it. */
export function useBatches({
	site,
	engine,
	tanks,
	products,
	waters,
	recipes: keptRecipes,
	batches: keptBatches,
	askedRecipe,
}: BatchThings) {
	const [batches, setBatches] = useState(keptBatches);
	const [recipes, setRecipes] = useState(keptRecipes);
	const [runId, setRunId] = useState<number | null>(null);
	const [problem, setProblem] = useState('');
	const [draft, setDraft] = useState<BatchDraft>(() => {
		const empty = emptyBatch(tanks[0], usualFeed(products, batches, tanks[0]?.code), waters[0]?.code ?? '', site.units);
		const recipe = recipes.find((r) => r.name === askedRecipe);
		return recipe ? fromRecipe(empty, recipe, site.units, products, tanks[0]) : empty;
	});
	const run = batches.find((b) => b.id === runId);
	const open = batches.filter((b) => b.finished_at === null && b.id !== runId);

	// Somebody else may be at the same tank, or begin a batch in it: what they did is in the list as well.
	const runStation = run?.station;
	const onChange = useCallback(
		async (change: Change) => {
			if (change.kind !== 'event') return;
			const ours = runId === null ? !change.what || change.what === 'solution_changed' : change.station === runStation;
			if (!ours) return;
			const { batches: fresh } = await api('GET /batches');
			setBatches((list) => [
				...fresh.map((f) => {
					const shown = list.find((b) => b.id === f.id);
					return shown && !goneOn(f.log, shown.log) ? shown : f;
				}),
				...list.filter((b) => !fresh.some((f) => f.id === b.id)),
			]);
		},
		[runId, runStation],
	);
	useChanges(onChange);

	// A tank is filled once: a second press, after no answer came to the first, is of the same filling.
	const filling = useRef<{ of: string; at: number } | null>(null);
	async function begin(station: string, plan: BatchPlan) {
		const of = JSON.stringify([station, plan]);
		const at = filling.current?.of === of ? filling.current.at : Date.now();
		filling.current = { of, at };
		try {
			let id = 0;
			const water = waters.find((w) => w.code === plan.water)!.name;
			await logEvents(
				engine,
				station,
				[{ kind: 'solution_changed', amount: plan.litres, unit: 'L', product: water }],
				async ([event]) => {
					id = (await api('POST /batches', { body: { station, event: event!, plan } })).id;
				},
				at,
			);
			filling.current = null;
			const begun = { id, station, started_at: formatTime(at), finished_at: null, name: '', plan, log: [] };
			// It may have been heard of before its answer came.
			setBatches((list) => (list.some((b) => b.id === id) ? list : [begun, ...list]));
			setRunId(id);
			setProblem('');
		} catch (error) {
			if (!(error instanceof ApiProblem && error.unreachable)) filling.current = null;
			setProblem((error as Error).message);
		}
	}
	/** @param follows how many steps were before it: what was heard of it before its answer came is not taken twice */
	const note = (id: number, step: BatchStep, follows: number) =>
		setBatches((list) =>
			list.map((b) =>
				b.id === id && b.log.length === follows
					? { ...b, log: [...b.log, step], finished_at: step.step === 'done' ? step.time : b.finished_at }
					: b,
			),
		);
	// biome-ignore lint/correctness/useExhaustiveDependencies: once, for what waits since before this page
	useEffect(() => {
		waitingSteps(site).then(
			(list) => {
				for (const { id, step, follows } of list) note(id, step, follows);
			},
			// Where a browser keeps nothing, nothing waits.
			() => {},
		);
	}, []);
	async function close(b: StoredBatch) {
		try {
			await batchLog(engine, site, b, (step, follows) => note(b.id, step, follows)).did('done', 'closed unfinished');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	return {
		batches,
		recipes,
		keepRecipe: (r: Recipe) => setRecipes((list) => [...list.filter((x) => x.name !== r.name), r]),
		run,
		setRunId,
		open,
		draft,
		setDraft,
		problem,
		begin,
		note,
		close,
	};
}
