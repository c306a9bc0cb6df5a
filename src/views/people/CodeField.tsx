import { Wrong } from '../ui/Field';

/** The code by which one joins. */
export function CodeField({
	label,
	value,
	onChange,
	wrong,
}: {
	label: string;
	value: string;
	onChange: (text: string) => void;
	wrong?: string | undefined;
}) {
	return (
		<label className="block">
			<span className="field-label">{label}</span>
			<input
				className="field uppercase"
				autoComplete="off"
				maxLength={40}
				placeholder="ABCDE-FGHJK"
				value={value}
				onChange={(e) => onChange(e.target.value)}
			/>
			<Wrong>{wrong}</Wrong>
		</label>
	);
}
