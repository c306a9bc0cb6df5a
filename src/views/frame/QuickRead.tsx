import { type RefObject, useEffect, useMemo, useReducer } from 'react';
import { parseQuickLine } from '@/core/reading/quick-line';
import type { SiteView } from '@/core/reading/site-view';
import { eventDoubtWords } from '@/words/en/event';
import { useEngine } from '../data/engine';
import { fixedValue } from '../entry/fix';
import { VerdictLine } from '../entry/VerdictLine';
import { QuickChips } from './QuickChips';
import {
	askText,
	contextOf,
	PartlySaved,
	type QuickEnter,
	type QuickSaved,
	saveLines,
	understand,
} from './quick-lines';

interface State {
	busy: boolean;
	problem: string;
	/** Lines whose unlikely amount was confirmed. */
	meant: ReadonlySet<string>;
}

/** What the quick line's text is understood as: chips, questions, verdicts, and the button that saves it. */
export default function QuickRead({
	site,
	lines,
	open,
	enter,
	onSaved,
	onText,
}: {
	site: SiteView;
	lines: readonly string[];
	open: boolean;
	enter: RefObject<QuickEnter>;
	onSaved: (saved: QuickSaved) => void;
	/** Other text for the line; `goOn`: the person goes on typing. */
	onText: (text: string, goOn: boolean) => void;
}) {
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		busy: false,
		problem: '',
		meant: new Set<string>(),
	});
	const names = useMemo(() => new Map(site.stations.map((x) => [x.info.code, x.name])), [site]);
	const context = useMemo(() => contextOf(site), [site]);
	const engine = useEngine(site, [...new Set(lines.flatMap((l) => parseQuickLine(l, context).station ?? []))]);
	const understood = lines.map((l) => understand(l, context, site, engine));
	const complete =
		understood.length > 0 &&
		understood.every((u) => (u.draft !== null || u.event !== null) && (u.doubt === null || s.meant.has(u.text)));

	async function submit() {
		if (!complete || s.busy) return;
		set({ busy: true, problem: '' });
		try {
			const saved = await saveLines(understood, site, engine);
			onSaved(saved);
		} catch (error) {
			// What was stored is not sent again.
			set({ problem: (error as Error).message });
			if (error instanceof PartlySaved) onText(error.left.join('\n'), false);
		} finally {
			set({ busy: false });
		}
	}

	/** Puts other digits in the place of those that were typed for a value. */
	function replace(line: number, typed: string, by: string) {
		const words = lines.slice();
		// The first place where exactly these digits stand is the one that was typed for it.
		words[line] = words[line]!.replace(new RegExp(`(?<![\\d.,])${typed.replace('.', '[.,]')}(?![\\d.,])`), by);
		onText(words.join('\n'), true);
	}

	useEffect(() => {
		const now = enter.current;
		now.submit = () => void submit();
		if (now.wanted) {
			now.wanted = false;
			now.submit();
		}
		return () => {
			now.submit = null;
		};
	});

	if (!open) return null;
	return (
		<div
			className="absolute z-30 left-0 right-0 mt-1 border border-line bg-base-100 p-3 rounded max-h-[70vh] overflow-auto"
			data-quick
		>
			{understood.map((u, i) => (
				<div key={i} className={i > 0 ? 'border-t border-line mt-2 pt-2' : ''}>
					<QuickChips u={u} names={names} site={site} />
					{u.said.asks.map((a, k) => (
						<p key={k} className="mt-1">
							{askText(a, names)}
						</p>
					))}
					{u.event && u.doubt && !s.meant.has(u.text) && (
						<p className="mt-1" role="alert">
							{eventDoubtWords(u.doubt, names.get(u.event.station) ?? u.event.station)}{' '}
							<button
								type="button"
								className="act !font-normal"
								onClick={() => set({ meant: new Set([...s.meant, u.text]) })}
							>
								Yes, {u.event.amount} {u.event.unit}
							</button>
						</p>
					)}
					{u.verdicts.map((v, k) => {
						const r = u.said.readings[k]!;
						return (
							<VerdictLine
								key={k}
								quantity={r.quantity}
								verdict={v}
								value={u.values[k]?.value ?? null}
								units={site.units}
								onFix={
									v.deciding?.suggested == null
										? undefined
										: () => replace(i, r.digits, fixedValue(v.deciding!.suggested!, r.unit, r.digits))
								}
							/>
						);
					})}
				</div>
			))}
			{s.problem && (
				<p className="text-error mt-2" role="alert">
					{s.problem}
				</p>
			)}
			<button type="button" className="act act-main mt-2" disabled={!complete || s.busy} onClick={submit}>
				Save {lines.length > 1 ? `${lines.length} lines` : ''} <kbd>Enter</kbd>
			</button>
		</div>
	);
}
