import { useEffect, useMemo, useReducer, useRef } from 'react';
import { parseQuickLine } from '@/core/reading/quick-line';
import type { SiteView } from '@/core/reading/site-view';
import { eventDoubtWords } from '@/words/en/event';
import { useEngine } from '../data/engine';
import { fixedValue } from '../entry/fix';
import { VerdictLine } from '../entry/VerdictLine';
import { keysTaken } from '../ui/typing';
import { QuickChips } from './QuickChips';
import { askText, contextOf, linesOf, PartlySaved, type QuickSaved, saveLines, understand } from './quick-lines';

interface State {
	text: string;
	open: boolean;
	busy: boolean;
	problem: string;
	ready: boolean;
	/** Lines whose unlikely amount was confirmed. */
	meant: ReadonlySet<string>;
}

/** One line, or several pasted at once: parsed and judged while it is typed, saved with Enter. */
export function QuickLine({ site, onSaved }: { site: SiteView; onSaved: (saved: QuickSaved) => void }) {
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		text: '',
		open: false,
		busy: false,
		problem: '',
		ready: false,
		meant: new Set<string>(),
	});
	const field = useRef<HTMLTextAreaElement>(null);
	const names = useMemo(() => new Map(site.stations.map((x) => [x.info.code, x.name])), [site]);
	useEffect(() => set({ ready: true }), []);

	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			const t = e.target;
			if (e.key !== '/' || e.ctrlKey || e.metaKey || e.altKey || keysTaken(t)) return;
			e.preventDefault();
			field.current?.focus();
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, []);

	const context = useMemo(() => contextOf(site), [site]);
	const lines = linesOf(s.text);
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
			set({ text: '', meant: new Set() });
			field.current?.blur();
			if (saved.stored) window.dispatchEvent(new Event('cordwain:changed'));
		} catch (error) {
			// What was stored is not sent again.
			set({
				problem: (error as Error).message,
				...(error instanceof PartlySaved ? { text: error.left.join('\n') } : {}),
			});
		} finally {
			set({ busy: false });
		}
	}

	/** Puts other digits in the place of those that were typed for a value. */
	function replace(line: number, typed: string, by: string) {
		const words = lines.slice();
		// The first place where exactly these digits stand is the one that was typed for it.
		words[line] = words[line]!.replace(new RegExp(`(?<![\\d.,])${typed.replace('.', '[.,]')}(?![\\d.,])`), by);
		set({ text: words.join('\n') });
		field.current?.focus();
	}

	return (
		<search
			className="relative grow min-w-60 max-w-[36rem] order-last sm:order-none w-full sm:w-auto"
			onFocus={() => set({ open: true })}
			onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && set({ open: false })}
		>
			<label className="sr-only" htmlFor="quick">
				Quick line
			</label>
			<textarea
				id="quick"
				ref={field}
				rows={Math.min(Math.max(lines.length, 1), 6)}
				className="field font-mono resize-none block overflow-hidden"
				placeholder="/  pond ph 5.8 ec 1.92 t 21.4"
				value={s.text}
				autoComplete="off"
				spellCheck={false}
				data-ready={s.ready}
				onChange={(e) => set({ text: e.target.value })}
				onKeyDown={(e) => {
					if (e.key === 'Enter' && !e.shiftKey) {
						e.preventDefault();
						submit();
					}
					if (e.key === 'Escape') field.current?.blur();
				}}
			/>
			{s.open && lines.length > 0 && (
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
			)}
		</search>
	);
}
