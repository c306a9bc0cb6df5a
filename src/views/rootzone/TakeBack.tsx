/** Takes back what was logged wrongly. */
export function TakeBack({ what, onBack }: { what: string; onBack: () => void }) {
	return (
		<button
			type="button"
			className="underline cursor-pointer min-h-8 text-soft"
			aria-label={`Take ${what} back`}
			onClick={onBack}
		>
			take back
		</button>
	);
}
