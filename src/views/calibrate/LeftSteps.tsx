import type { Step } from './step';

/** What the meter shows in each standard once it is adjusted. */
export function LeftSteps({
	steps,
	placeholders,
	onChange,
}: {
	steps: readonly Step[];
	placeholders: readonly string[];
	onChange: (step: number, left: string) => void;
}) {
	return (
		<>
			<h2 className="note-rule mt-2 !pb-1">2 · Adjust the meter as its own instructions say, then read again</h2>
			<div className="flex flex-wrap gap-3">
				{steps.map((s, i) => (
					<label key={i} className="block w-40">
						<span className="field-label">as left in {s.standard}</span>
						<input
							id={`c-left-${i}`}
							className="field !text-[1.3rem]"
							inputMode="decimal"
							autoComplete="off"
							placeholder={placeholders[i]}
							value={s.left}
							onChange={(e) => onChange(i, e.target.value)}
						/>
					</label>
				))}
			</div>
			<p className="text-soft text-[0.85rem] mt-1">Left empty, it is taken to be right after adjusting.</p>
		</>
	);
}
