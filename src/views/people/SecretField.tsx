import { useId, useState } from 'react';
import { Wrong } from '../ui/Field';

/** A passphrase or a PIN: hidden unless one wants to see it, and pasted where a password store fills it in. */
export function SecretField({
	label,
	value,
	onChange,
	wrong,
	isNew = false,
	digits = false,
	hint,
}: {
	label: string;
	value: string;
	onChange: (text: string) => void;
	wrong?: string | undefined;
	/** It is being chosen, and not typed again. */
	isNew?: boolean;
	digits?: boolean;
	hint?: string;
}) {
	const [shown, show] = useState(false);
	const id = useId();
	return (
		<div>
			<label className="field-label" htmlFor={id}>
				{label}
			</label>
			<div className="flex gap-2">
				<input
					id={id}
					className="field"
					type={shown ? 'text' : 'password'}
					inputMode={digits ? 'numeric' : undefined}
					autoComplete={digits ? 'off' : isNew ? 'new-password' : 'current-password'}
					maxLength={digits ? 8 : 128}
					value={value}
					onChange={(e) => onChange(e.target.value)}
				/>
				<button type="button" className="act !font-normal" aria-pressed={shown} onClick={() => show(!shown)}>
					{shown ? 'Hide' : 'Show'}
				</button>
			</div>
			{hint && <span className="text-soft text-[0.85rem] block pt-1">{hint}</span>}
			<Wrong>{wrong}</Wrong>
		</div>
	);
}
