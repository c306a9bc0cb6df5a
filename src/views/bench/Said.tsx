/** What became of the sample before; where nothing is typed yet, how to type. */
export function Said({ lines, empty }: { lines: readonly string[]; empty: boolean }) {
	return (
		<>
			{lines.length > 0 && (
				<div className="border-l-4 border-secondary pl-3 py-1" data-saved>
					{lines.map((s) => (
						<p key={s}>{s}</p>
					))}
				</div>
			)}
			{empty && lines.length === 0 && (
				<p className="text-soft mt-2 max-w-[60ch]">
					Type what the display says; the verdict comes as you type. The decimal mark may be left out: 58 is read as
					5.8. A unit may follow the number: 950ppm, 1920uS, 70F; a drop kit takes an interval, 5.0..6.0.
				</p>
			)}
		</>
	);
}
