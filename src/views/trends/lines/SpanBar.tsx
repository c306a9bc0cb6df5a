import { SPANS, type Spans } from './use-span';

/** How the time that is looked at is chosen and moved; the keys do the same. */
export function SpanBar({
	spans,
	lastYear,
	onLastYear,
	table,
	onTable,
}: {
	spans: Spans;
	lastYear: boolean;
	onLastYear: (on: boolean) => void;
	table: boolean;
	onTable: (on: boolean) => void;
}) {
	const moves = [
		['earlier', '←', spans.earlier],
		['later', '→', spans.later],
		['closer', '+', spans.closer],
		['wider', '−', spans.wider],
	] as const;
	return (
		<div className="flex flex-wrap items-center gap-x-4 gap-y-1 mb-1">
			<fieldset className="flex flex-wrap gap-1" aria-label="Span">
				{SPANS.map(([d, name]) => (
					<button
						key={d}
						type="button"
						aria-pressed={spans.days === d}
						className={`act ${spans.days === d ? 'act-main' : '!font-normal !border-line'}`}
						onClick={() => spans.last(d)}
					>
						{name}
					</button>
				))}
			</fieldset>
			<fieldset className="flex flex-wrap gap-1" aria-label="Move">
				{moves.map(([name, key, act]) => (
					<button key={name} type="button" className="act !font-normal !border-line" onClick={act}>
						{name} <kbd className="hidden sm:inline">{key}</kbd>
					</button>
				))}
			</fieldset>
			<label className="flex items-center gap-2 min-h-10 cursor-pointer">
				<input
					type="checkbox"
					className="checkbox checkbox-sm"
					checked={lastYear}
					onChange={(e) => onLastYear(e.target.checked)}
				/>
				the same weeks of last year
			</label>
			<button
				type="button"
				className="ml-auto underline cursor-pointer min-h-10"
				aria-pressed={table}
				onClick={() => onTable(!table)}
			>
				{table ? 'as a chart' : 'as a table'}
			</button>
		</div>
	);
}
