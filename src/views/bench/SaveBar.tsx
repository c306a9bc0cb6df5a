/** A note, when it was, further dips of the same water, and the button that keeps the sample: on a phone where the thumb is. */
export function SaveBar({
	note,
	onNote,
	when,
	whenSaid,
	whenWrong,
	onWhen,
	onAgain,
	onSecond,
	ready,
}: {
	note: string;
	onNote: (note: string) => void;
	/** When it was measured, as typed; empty for now. */
	when: string;
	whenSaid: string;
	whenWrong: boolean;
	onWhen: (text: string) => void;
	/** Null where there are dips enough. */
	onAgain: (() => void) | null;
	onSecond: (() => void) | null;
	ready: boolean;
}) {
	return (
		<>
			<div className="grid grid-cols-2 sm:grid-cols-[1fr_16rem] gap-3 items-start mb-2">
				<label className="block">
					<span className="field-label">Note</span>
					<input id="note" className="field" value={note} maxLength={2000} onChange={(e) => onNote(e.target.value)} />
				</label>
				<div>
					<label className="field-label" htmlFor="when">
						When
					</label>
					<input
						id="when"
						className="field"
						autoComplete="off"
						placeholder="now; or 7:30, -2h"
						value={when}
						maxLength={40}
						aria-invalid={whenWrong}
						aria-describedby="h-when"
						onChange={(e) => onWhen(e.target.value)}
					/>
					<p id="h-when" className={`text-[0.85rem] ${whenWrong ? 'text-error' : 'text-soft'}`}>
						{whenSaid}
					</p>
				</div>
			</div>
			<div className="flex flex-wrap gap-3 items-end py-2 mb-1 max-sm:sticky max-sm:bottom-14 max-sm:z-10 max-sm:bg-base-100 max-sm:border-t max-sm:border-line">
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
				<button
					type="submit"
					className="act act-main ml-auto justify-center max-sm:grow max-sm:min-h-12"
					disabled={!ready}
				>
					Save <kbd className="!text-primary-content !border-primary-content max-sm:!hidden">Enter</kbd>
				</button>
			</div>
		</>
	);
}
