/** From when on a change holds. */
export type Since = 'now' | 'always';

const WORDS: Record<Since, string> = {
	now: 'from now on: what was read before stays as it was',
	always: 'it was always so: what was read before is worked out and judged again by it',
};

/** Whether something was changed, or had been set down wrongly. */
export function SinceWhen({ value, onChange }: { value: Since; onChange: (since: Since) => void }) {
	return (
		<fieldset data-since>
			<legend className="field-label">What you changed holds</legend>
			{(Object.keys(WORDS) as Since[]).map((s) => (
				<label key={s} className="flex items-center gap-2 min-h-11 cursor-pointer">
					<input type="radio" name="since" checked={value === s} onChange={() => onChange(s)} />
					{WORDS[s]}
				</label>
			))}
		</fieldset>
	);
}
