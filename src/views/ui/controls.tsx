import { useState } from 'react';
import { Wrong } from './Field';

/** A labelled text whose state is elsewhere, in a reducer or an address. */
export function Text({
	label,
	value,
	onChange,
	width = 'w-44',
	mode,
	hint,
	wrong,
}: {
	label: string;
	value: string;
	onChange: (v: string) => void;
	width?: string;
	mode?: 'decimal';
	/** What it changes. */
	hint?: string;
	wrong?: string | undefined;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<input
				className="field"
				value={value}
				inputMode={mode}
				maxLength={200}
				aria-invalid={wrong !== undefined}
				onChange={(e) => onChange(e.target.value)}
			/>
			<Below hint={hint} wrong={wrong} />
		</label>
	);
}

/** What a field changes, or what is wrong with it. */
export function Below({ hint, wrong }: { hint: string | undefined; wrong: string | undefined }) {
	if (wrong) return <Wrong>{wrong}</Wrong>;
	return hint ? <span className="text-soft text-[0.85rem] block pt-1 max-w-[60ch]">{hint}</span> : null;
}

/** What can be chosen; `labels` where it is not shown as it is called. */
export const Options = ({ options, labels }: { options: readonly string[]; labels: Record<string, string> }) =>
	options.map((o) => (
		<option key={o} value={o}>
			{labels[o] ?? (o === '' ? 'none' : o.replaceAll('_', ' '))}
		</option>
	));

/** A labelled choice, likewise. */
export function Choice<T extends string>({
	label,
	value,
	options,
	onChange,
	labels = {},
	width = 'w-44',
	hint,
}: {
	label: string;
	value: T;
	options: readonly T[];
	/** What is shown for an option, where it is not the option itself. */
	labels?: Record<string, string>;
	onChange: (v: T) => void;
	width?: string;
	/** What it changes. */
	hint?: string;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<select className="field" value={value} onChange={(e) => onChange(e.target.value as T)}>
				<Options options={options} labels={labels} />
			</select>
			<Below hint={hint} wrong={undefined} />
		</label>
	);
}

/** A name is enough to begin with. */
export function AddByName({ label, onAdd }: { label: string; onAdd: (name: string) => void }) {
	const [name, setName] = useState('');
	return (
		<form
			className="flex items-end gap-2 pt-3 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				if (name.trim() === '') return;
				onAdd(name.trim());
				setName('');
			}}
		>
			<Text label={label} value={name} onChange={setName} />
			<button type="submit" className="act" disabled={name.trim() === ''}>
				Add
			</button>
		</form>
	);
}
