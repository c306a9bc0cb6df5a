/** Somebody changed meanwhile what was to be saved: what was typed stands there until it is let go. */
export function Overtaken({ onTake }: { onTake: () => void }) {
	return (
		<p className="mt-2" data-overtaken>
			Somebody changed it meanwhile. What you typed stands here and is not kept.{' '}
			<button type="button" className="underline cursor-pointer min-h-11" onClick={onTake}>
				Take it as it is now
			</button>
		</p>
	);
}
