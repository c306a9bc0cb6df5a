import type { KeyboardEvent } from 'react';

/** A field for what a display says: it keeps what is typed, and says below it how that was understood. */
export function NumberField({
	id,
	label,
	unit,
	hue,
	text,
	expected,
	said,
	wrong,
	large = false,
	register,
	onText,
	onKey,
}: {
	id: string;
	label: string;
	/** Of a number typed without one. */
	unit: string;
	/** Name of the colour of its quantity (app.css). */
	hue: string;
	text: string;
	/** What is usually typed here, shown while it is empty. */
	expected: string | undefined;
	said: string;
	wrong: boolean;
	large?: boolean;
	register: (el: HTMLInputElement | null) => void;
	onText: (text: string) => void;
	onKey: (e: KeyboardEvent<HTMLInputElement>) => void;
}) {
	return (
		<div>
			<label className="field-label" htmlFor={`f-${id}`}>
				{label} <span>{unit}</span>
			</label>
			<input
				id={`f-${id}`}
				ref={register}
				className={`field ${large ? '!text-[1.6rem] !min-h-14' : '!text-[1.2rem] !min-h-11'}`}
				data-hue={hue}
				inputMode="decimal"
				autoComplete="off"
				placeholder={expected}
				value={text}
				aria-invalid={wrong}
				aria-describedby={`h-${id}`}
				onChange={(e) => onText(e.target.value)}
				onKeyDown={onKey}
			/>
			<p id={`h-${id}`} className={`text-[0.85rem] min-h-6 pt-1 ${wrong ? 'text-error' : 'text-soft'}`}>
				{said}
			</p>
		</div>
	);
}
