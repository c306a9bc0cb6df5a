import type { ReactNode } from 'react';
import type { FieldPath, FieldValues, UseFormReturn } from 'react-hook-form';
import type { CheckedForm } from '../ui/checked-form';
import { Below, Options } from '../ui/controls';

interface Labelled {
	label: string;
	width?: string;
	/** What it changes. */
	hint?: string;
}

/** A text of a form; `check` says what is wrong with how it is written, the form what is wrong with what it says. Empty is never wrong. */
export function Text<V extends FieldValues>({
	form,
	name,
	label,
	width = 'max-w-96',
	mode,
	hint,
	check,
}: Labelled & {
	form: CheckedForm<V>;
	name: FieldPath<V>;
	mode?: 'decimal';
	check?: (text: string) => true | string;
}) {
	const wrong = form.getFieldState(name, form.formState).error?.message;
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<input
				className="field"
				inputMode={mode}
				maxLength={200}
				autoComplete="off"
				aria-invalid={wrong !== undefined}
				{...form.register(name, {
					validate: (text: string) => {
						if (text.trim() === '') return true;
						const written = check?.(text) ?? true;
						return written === true ? form.takes(name) : written;
					},
				})}
			/>
			<Below hint={hint} wrong={wrong} />
		</label>
	);
}

/** A choice of a form. */
export function Choice<V extends FieldValues>({
	form,
	name,
	options,
	labels = {},
	label,
	width = 'max-w-96',
	hint,
}: Labelled & {
	form: UseFormReturn<V>;
	name: FieldPath<V>;
	options: readonly string[];
	/** What is shown for an option, where it is not the option itself. */
	labels?: Record<string, string>;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<select className="field" {...form.register(name)}>
				<Options options={options} labels={labels} />
			</select>
			<Below hint={hint} wrong={undefined} />
		</label>
	);
}

/** A box to tick. */
export function Tick<V extends FieldValues>({
	form,
	name,
	value,
	children,
}: {
	form: UseFormReturn<V>;
	name: FieldPath<V>;
	/** One of several under the same name. */
	value?: string;
	children: ReactNode;
}) {
	return (
		<label className="flex gap-2 items-center min-h-10">
			<input type="checkbox" value={value} {...form.register(name)} /> {children}
		</label>
	);
}
