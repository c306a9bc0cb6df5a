/** A note, further dips of the same water, and the button that keeps the sample. */
export function SaveBar({
	note,
	onNote,
	onAgain,
	onSecond,
	ready,
}: {
	note: string;
	onNote: (note: string) => void;
	/** Null where there are dips enough. */
	onAgain: (() => void) | null;
	onSecond: (() => void) | null;
	ready: boolean;
}) {
	return (
		<div className="flex flex-wrap gap-3 items-end mb-2">
			<div className="grow min-w-48">
				<label className="field-label" htmlFor="note">
					Note
				</label>
				<input id="note" className="field" value={note} maxLength={2000} onChange={(e) => onNote(e.target.value)} />
			</div>
			{onAgain && (
				<button type="button" className="act !font-normal" data-again onClick={onAgain}>
					Again
				</button>
			)}
			{onSecond && (
				<button type="button" className="act !font-normal" onClick={onSecond}>
					Second opinion
				</button>
			)}
			<button type="submit" className="act act-main" disabled={!ready}>
				Save <kbd className="!text-primary-content !border-primary-content">Enter</kbd>
			</button>
		</div>
	);
}
