import { Wrong } from '../ui/Field';

/** The name somebody goes by. */
export function NameField({
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
				className="field"
				autoComplete="username"
				maxLength={80}
				value={value}
				onChange={(e) => onChange(e.target.value)}
			/>
			<Wrong>{wrong}</Wrong>
		</label>
	);
}
