/** What became of the sample before, with the way back; where nothing is typed yet, how to type. */
export function Said({
	lines,
	empty,
	onUndo,
}: {
	lines: readonly string[];
	empty: boolean;
	/** Null where there is nothing to take back. */
	onUndo: (() => void) | null;
}) {
	return (
		<>
			{lines.length > 0 && (
				<div className="border-l-4 border-secondary pl-3 py-1 flex flex-wrap gap-x-4 items-center" data-saved>
					<div className="grow">
						{lines.map((s) => (
							<p key={s}>{s}</p>
						))}
					</div>
					{onUndo && (
						<button type="button" className="act !font-normal" data-undo onClick={onUndo}>
							Undo
						</button>
					)}
				</div>
			)}
			{empty && lines.length === 0 && (
				<p className="text-soft mt-2 max-w-[60ch]">
					Type what the display says; the verdict comes as you type. The decimal mark may be left out: 58 is read as
					5.8. A unit may follow the number: 950ppm, 1920uS, 70F; a drop kit takes an interval, 5.0..6.0, or a count, 5
					drops.
				</p>
			)}
		</>
	);
}
