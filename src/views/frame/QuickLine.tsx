import { Suspense, useEffect, useReducer, useRef } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { later } from '../ui/later';
import { keysTaken } from '../ui/typing';
import type { QuickEnter, QuickSaved } from './quick-lines';

interface State {
	text: string;
	open: boolean;
	ready: boolean;
}
const linesOf = (text: string): string[] =>
	text
		.split('\n')
		.map((l) => l.trim())
		.filter((l) => l !== '');

const QuickRead = later(() => import('./QuickRead'));

/** One line, or several pasted at once: parsed and judged while it is typed, saved with Enter. */
export function QuickLine({ site, onSaved }: { site: SiteView; onSaved: (saved: QuickSaved) => void }) {
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		text: '',
		open: false,
		ready: false,
	});
	const field = useRef<HTMLTextAreaElement>(null);
	const enter = useRef<QuickEnter>({ wanted: false, submit: null });
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
	const lines = linesOf(s.text);

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
						if (enter.current.submit) enter.current.submit();
						else enter.current.wanted = true;
					}
					if (e.key === 'Escape') field.current?.blur();
				}}
			/>
			{lines.length > 0 && (
				<Suspense>
					<QuickRead
						site={site}
						lines={lines}
						open={s.open}
						enter={enter}
						onSaved={(saved) => {
							onSaved(saved);
							set({ text: '' });
							field.current?.blur();
							if (saved.stored) window.dispatchEvent(new Event('cordwain:changed'));
						}}
						onText={(text, goOn) => {
							set({ text });
							if (goOn) field.current?.focus();
						}}
					/>
				</Suspense>
			)}
		</search>
	);
}
