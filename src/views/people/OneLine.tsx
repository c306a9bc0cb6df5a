import type { ComponentProps } from 'react';
import { Wrong } from '../ui/Field';

/** A line that is typed, with what is wrong with it below. */
export function OneLine({
	label,
	value,
	onChange,
	wrong,
	className = '',
	...input
}: {
	label: string;
	value: string;
	onChange: (text: string) => void;
	wrong?: string | undefined;
} & Pick<ComponentProps<'input'>, 'autoComplete' | 'maxLength' | 'placeholder' | 'className'>) {
	return (
		<label className="block">
			<span className="field-label">{label}</span>
			<input className={`field ${className}`} value={value} onChange={(e) => onChange(e.target.value)} {...input} />
			<Wrong>{wrong}</Wrong>
		</label>
	);
}
type Typed = Pick<ComponentProps<typeof OneLine>, 'label' | 'value' | 'onChange' | 'wrong'>;

/** The name somebody goes by. */
export const NameField = (typed: Typed) => <OneLine {...typed} autoComplete="username" maxLength={80} />;

/** The code by which one joins. */
export const CodeField = (typed: Typed) => (
	<OneLine {...typed} className="uppercase" autoComplete="off" maxLength={40} placeholder="ABCDE-FGHJK" />
);
