import type { ReactNode } from 'react';

/** What is wrong with a field, said below it. */
export const Wrong = ({ children }: { children: string | undefined }) =>
	children ? (
		<span role="alert" className="text-error text-[0.85rem] block pt-1">
			{children}
		</span>
	) : null;

/** One control with its label above it and what is wrong below it. */
export function Field({
	label,
	wrong,
	width,
	children,
}: {
	label: string;
	wrong?: string | undefined;
	width: string;
	children: ReactNode;
}) {
	return (
		<div className={width}>
			{/* biome-ignore lint/a11y/noLabelWithoutControl: its control is the child */}
			<label className="block">
				<span className="field-label">{label}</span>
				{children}
			</label>
			<Wrong>{wrong}</Wrong>
		</div>
	);
}
