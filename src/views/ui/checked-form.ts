import { type MouseEvent, type RefObject, useRef } from 'react';
import { type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn, useForm } from 'react-hook-form';
import type { Contract } from '@/contract';
import type { FieldProblem } from '@/contract/problems';
import { refusedBefore } from '../data/checked';

/** What was typed as it is sent, or the field that cannot be understood. */
export type ReadForm<V extends FieldValues> =
	| { ok: true; body: unknown }
	| { ok: false; field: FieldPath<V>; message: string };

export type CheckedForm<V extends FieldValues> = UseFormReturn<V> & {
	/** What is wrong with a field, by its reader and by the contract’s schemas: for `validate`. */
	takes: (name: FieldPath<V>) => Promise<true | string>;
	/** Says what was refused at the field it stands in. @returns whether there was one for each */
	say: (refused: readonly FieldProblem[]) => boolean;
	/** For the form's element: what is said as a field is left moves no button away from under the press that left it. */
	steady: { ref: RefObject<HTMLFormElement | null>; onMouseDown: (e: MouseEvent) => void };
};

/** A pressed button does not take the focus: the field is left by nothing but the press itself, which then checks all of them. */
const onMouseDown = (e: MouseEvent) => {
	if ((e.target as Element).closest('button')) e.preventDefault();
};

/** As high as the bar at the foot of a narrow screen, and some. */
const FOOT_PX = 96;
/** Brings the first field that is wrong into view, once it says so: one that has the focus already is not brought by getting it. */
function showWrong(form: HTMLFormElement | null): void {
	requestAnimationFrame(() =>
		requestAnimationFrame(() => {
			const field = form?.querySelector('[aria-invalid=true]');
			const { top = 0, bottom = 0 } = field?.getBoundingClientRect() ?? {};
			if (top < 0 || bottom > innerHeight - FOOT_PX) field?.scrollIntoView({ block: 'center' });
		}),
	);
}

/** A form whose fields are held against the contract’s schemas as they are left, and again before anything is sent. */
export function useCheckedForm<V extends FieldValues>({
	address,
	first,
	read,
	fields = {},
}: {
	address: keyof Contract & string;
	first: V;
	read: (values: V) => ReadForm<V>;
	/** Where what is sent stands in the form, where it is not called the same: by its path, or reckoned from it. */
	fields?: Record<string, FieldPath<V>> | ((path: string) => FieldPath<V>);
}): CheckedForm<V> {
	const form = useForm<V>({ defaultValues: first as DefaultValues<V>, mode: 'onTouched' });
	const fieldOf = (path: string) =>
		typeof fields === 'function' ? fields(path) : (fields[path] ?? (path.split('.')[0] as FieldPath<V>));
	const element = useRef<HTMLFormElement>(null);
	return {
		...form,
		steady: { ref: element, onMouseDown },
		handleSubmit: (valid, invalid) =>
			form.handleSubmit(valid, (errors, e) => {
				showWrong(element.current);
				return invalid?.(errors, e);
			}),
		takes: async (name) => {
			const now = read(form.getValues());
			if (!now.ok) return now.field !== name || now.message;
			const wrong = (await refusedBefore(address, now.body)).find((w) => fieldOf(w.path) === name);
			return wrong?.message ?? true;
		},
		say: (refused) => {
			const here = refused.filter((w) => form.getValues(fieldOf(w.path)) !== undefined);
			for (const w of here) form.setError(fieldOf(w.path), { message: w.message }, { shouldFocus: true });
			showWrong(element.current);
			return here.length === refused.length;
		},
	};
}
