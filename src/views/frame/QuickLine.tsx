import { useEffect, useMemo, useRef, useState } from 'react';
import { QUANTITY } from '@/core/quantity';
import type { Reading, Verdict } from '@/core/reading/model';
import { parseQuickLine, type QuickAsk, type QuickSample } from '@/core/reading/quick-line';
import type { SiteView } from '@/core/reading/site-view';
import { useEngine } from '../data/engine';
import { fixedValue } from '../entry/fix';
import { type DraftSample, judgeDraft, readingsOf, save } from '../entry/sample';
import { VerdictLine } from '../entry/VerdictLine';
import { unitLabel } from '../ui/format';
import { isTyping } from '../ui/typing';

const askText = (ask: QuickAsk, names: Map<string, string>): string => {
	switch (ask.about) {
		case 'station':
			return ask.candidates.length === 0
				? 'Which station? Begin with its name.'
				: `Which one: ${ask.candidates.map((c) => names.get(c) ?? c).join(' or ')}?`;
		case 'ppm-scale':
			return 'ppm on which scale? Type ppm500, ppm640 or ppm700, or name the meter.';
		case 'word':
			return `“${ask.word}” is not understood.`;
		case 'value':
			return 'Type what you read, as ph 5.8 ec 1.92 t 21.4.';
	}
};

/** One line, or several pasted at once: parsed and judged while it is typed, saved with Enter. */
export function QuickLine({ site, onSaid }: { site: SiteView; onSaid: (text: string) => void }) {
	const [text, setText] = useState('');
	const [open, setOpen] = useState(false);
	const [busy, setBusy] = useState(false);
	const [problem, setProblem] = useState('');
	const [ready, setReady] = useState(false);
	const field = useRef<HTMLTextAreaElement>(null);
	const names = useMemo(() => new Map(site.stations.map((s) => [s.info.code, s.name])), [site]);
	useEffect(() => setReady(true), []);

	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			const t = e.target;
			if (e.key !== '/' || e.ctrlKey || e.metaKey || e.altKey || isTyping(t)) return;
			e.preventDefault();
			field.current?.focus();
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, []);

	const context = useMemo(
		() => ({
			stations: site.stations.map((s) => ({ code: s.info.code, name: s.name })),
			instruments: site.instruments.map((i) => ({ code: i.info.code, name: i.name, ppmScale: i.info.ppmScale })),
			ecUnit: site.units.ec,
			tempUnit: site.units.temp,
		}),
		[site],
	);
	const lines = text
		.split('\n')
		.map((l) => l.trim())
		.filter((l) => l !== '');
	const parsed = lines.map((line) => parseQuickLine(line, context));
	const engine = useEngine(site, [...new Set(parsed.flatMap((s) => s.station ?? []))]);
	const samples: { sample: QuickSample; draft: DraftSample | null; verdicts: Verdict[]; values: Reading[] }[] =
		parsed.map((sample) => {
			const draft: DraftSample | null =
				sample.station !== null && sample.readings.length > 0 && sample.asks.length === 0
					? {
							station: sample.station,
							instrument: sample.instrument,
							values: sample.readings,
							note: sample.note,
							at: null,
							source: 'quick',
						}
					: null;
			return {
				sample,
				draft,
				verdicts: draft ? judgeDraft(engine, draft) : [],
				values: draft ? readingsOf(draft, Date.now()) : [],
			};
		});
	const complete = samples.length > 0 && samples.every((s) => s.draft !== null);

	async function submit() {
		if (!complete || busy) return;
		setBusy(true);
		setProblem('');
		try {
			// Pasted lines are moments apart, so that two of one station are two samples.
			const now = Date.now();
			const drafts = samples.map((s, i) => ({ ...s.draft!, at: now - (samples.length - 1 - i) * 1000 }));
			const result = await save(drafts);
			for (const d of drafts) engine.take(readingsOf(d, d.at));
			onSaid(
				result.kind === 'stored'
					? `Saved: ${drafts.map((d) => names.get(d.station)).join(', ')}. u takes it back.`
					: result.message,
			);
			setText('');
			field.current?.blur();
			if (result.kind === 'stored') window.dispatchEvent(new Event('cordwain:changed'));
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}

	function fix(line: number, reading: number, suggested: number) {
		const words = lines.slice();
		const r = samples[line]!.sample.readings[reading]!;
		const digits = fixedValue(suggested, r.unit, r.digits);
		// The first place where exactly these digits stand is the one that was typed for it.
		words[line] = words[line]!.replace(new RegExp(`(?<![\\d.,])${r.digits.replace('.', '[.,]')}(?![\\d.,])`), digits);
		setText(words.join('\n'));
		field.current?.focus();
	}

	return (
		<search
			className="relative grow min-w-60 max-w-[36rem] order-last sm:order-none w-full sm:w-auto"
			onFocus={() => setOpen(true)}
			onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && setOpen(false)}
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
				value={text}
				autoComplete="off"
				spellCheck={false}
				data-ready={ready}
				onChange={(e) => setText(e.target.value)}
				onKeyDown={(e) => {
					if (e.key === 'Enter' && !e.shiftKey) {
						e.preventDefault();
						submit();
					}
					if (e.key === 'Escape') field.current?.blur();
				}}
			/>
			{open && lines.length > 0 && (
				<div
					className="absolute z-30 left-0 right-0 mt-1 border border-line bg-base-100 p-3 rounded max-h-[70vh] overflow-auto"
					data-quick
				>
					{samples.map(({ sample, verdicts, values }, i) => (
						<div key={i} className={i > 0 ? 'border-t border-line mt-2 pt-2' : ''}>
							<p className="flex flex-wrap gap-1.5">
								{sample.station && <Chip>{names.get(sample.station)}</Chip>}
								{sample.instrument && (
									<Chip>with {site.instruments.find((x) => x.info.code === sample.instrument)?.name}</Chip>
								)}
								{sample.readings.map((r, k) => (
									<Chip key={k}>
										{QUANTITY[r.quantity].name} <strong>{r.digits}</strong> {unitLabel(r.unit)}
									</Chip>
								))}
								{sample.note && <Chip>“{sample.note}”</Chip>}
							</p>
							{sample.asks.map((a, k) => (
								<p key={k} className="mt-1">
									{askText(a, names)}
								</p>
							))}
							{verdicts.map((v, k) => (
								<VerdictLine
									key={k}
									quantity={sample.readings[k]!.quantity}
									verdict={v}
									value={values[k]?.value ?? null}
									units={site.units}
									onFix={v.deciding?.suggested == null ? undefined : () => fix(i, k, v.deciding!.suggested!)}
								/>
							))}
						</div>
					))}
					{problem && (
						<p className="text-error mt-2" role="alert">
							{problem}
						</p>
					)}
					<button type="button" className="act act-main mt-2" disabled={!complete || busy} onClick={submit}>
						Save {samples.length > 1 ? `${samples.length} samples` : ''} <kbd>Enter</kbd>
					</button>
				</div>
			)}
		</search>
	);
}

function Chip({ children }: { children: React.ReactNode }) {
	return <span className="border border-line bg-zone px-2 py-0.5 rounded-[3px]">{children}</span>;
}
