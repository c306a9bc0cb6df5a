import type { Dilution } from '@/core/mix/dilute';
import type { Answer } from '@/core/problem';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { ecShown } from './typed';
import { poured } from './words';

/** Less than this is within what a dipstick tells. */
export const LEAST_DRAIN_L = 0.5;

/** An EC beside its target: what to drain, add or pour more of, or to leave it so. */
export function CorrectEc({
	seen,
	target,
	tooHigh,
	tooLow,
	correction,
	more,
	plan,
	units,
	onDone,
	onLeave,
}: {
	seen: number;
	target: number;
	tooHigh: boolean;
	tooLow: boolean;
	correction: Answer<Dilution> | null;
	/** Feed to add, of each part; not a number where that is not known. */
	more: number;
	plan: { unit: 'mL' | 'g'; parts: number; water: string };
	units: DisplayUnits;
	onDone: () => void;
	onLeave: () => void;
}) {
	const shown = (v: number) => ecShown(v, units);
	return (
		<div data-correction={tooHigh ? 'dilute' : 'feed'}>
			<p className="text-[1.15rem]">
				EC {shown(seen)} is {tooHigh ? 'above' : 'below'} the target of {shown(target)}.{' '}
				{correction?.ok &&
					`${correction.value.drainL > LEAST_DRAIN_L ? `Drain ${Math.round(correction.value.drainL)} L and add` : 'Add'} ${Math.round(correction.value.addL)} L of ${plan.water}.`}
				{more > 0 &&
					`Add ${poured(more)} ${plan.unit} more${plan.parts > 1 ? ' of each part, stirred in between' : ''}.`}
			</p>
			{correction?.ok && correction.value.drainL > LEAST_DRAIN_L && (
				<p className="text-soft text-[0.9rem]">Where it may run off is a matter of local discharge rules.</p>
			)}
			{more > 0 && (
				<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
					Never concentrate on concentrate. Gloves and eye protection.
				</p>
			)}
			{correction && !correction.ok && <p className="text-error">{problemWords(correction.problem)}</p>}
			{tooLow && !(more > 0) && <p>How much feed that takes is not known: add a little, and measure again.</p>}
			<div className="flex flex-wrap gap-2 mt-1">
				<button
					type="button"
					className="act act-main"
					data-correct
					disabled={!correction?.ok && !(more > 0)}
					onClick={onDone}
				>
					Done: measure again
				</button>
				<button type="button" className="act !font-normal" data-leave onClick={onLeave}>
					Leave it so
				</button>
			</div>
		</div>
	);
}
