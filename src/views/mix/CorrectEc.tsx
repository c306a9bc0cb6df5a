import type { Dilution } from '@/core/mix/dilute';
import type { Pour } from '@/core/mix/feed/plan';
import type { Answer } from '@/core/problem';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { ecShown, volumeWithUnit } from './typed';
import { poured } from './words';

/** Less than this is within what a dipstick tells. */
export const LEAST_DRAIN_L = 0.5;

/** An EC beside its target: what to drain, add or pour more of, or to leave it so. */
export function CorrectEc({
	seen,
	target,
	dilution,
	more,
	litres,
	water,
	units,
	busy,
	onDone,
	onLeave,
}: {
	seen: number;
	target: number;
	/** Where it came out too high. */
	dilution: Answer<Dilution> | null;
	/** Where it came out too low. */
	more: Answer<Pour[]> | null;
	litres: number;
	water: string;
	units: DisplayUnits;
	busy: boolean;
	onDone: () => void;
	onLeave: () => void;
}) {
	const shown = (v: number) => ecShown(v, units);
	const problem = dilution?.ok === false ? dilution.problem : more?.ok === false ? more.problem : null;
	return (
		<div data-correction={dilution ? 'dilute' : 'feed'}>
			<p className="text-[1.15rem]">
				EC {shown(seen)} is {seen > target ? 'above' : 'below'} the target of {shown(target)}.{' '}
				{dilution?.ok &&
					`${dilution.value.drainL > LEAST_DRAIN_L ? `Drain ${volumeWithUnit(Math.round(dilution.value.drainL), units)} and add` : 'Add'} ${volumeWithUnit(Math.round(dilution.value.addL), units)} of ${water}.`}
				{more?.ok && 'Add more, stirred in between:'}
			</p>
			{more?.ok && (
				<ul className="list-disc pl-6" data-more>
					{more.value.map((p) => (
						<li key={`${p.product}${p.bottle}`}>
							<strong>
								{poured(p.perL * litres)} {p.unit}
							</strong>{' '}
							of {p.product}
							{p.bottle && `, part ${p.bottle}`}
						</li>
					))}
				</ul>
			)}
			{dilution?.ok && dilution.value.drainL > LEAST_DRAIN_L && (
				<p className="text-soft text-[0.9rem]">Where it may run off is a matter of local discharge rules.</p>
			)}
			{more?.ok && (
				<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
					Never concentrate on concentrate. Gloves and eye protection.
				</p>
			)}
			{problem && <p className="text-error">{problemWords(problem)}</p>}
			<div className="flex flex-wrap gap-2 mt-1">
				<button
					type="button"
					className="act act-main"
					data-correct
					disabled={busy || !(dilution?.ok || more?.ok)}
					onClick={onDone}
				>
					Done: measure again
				</button>
				<button type="button" className="act !font-normal" data-leave disabled={busy} onClick={onLeave}>
					Leave it so
				</button>
			</div>
		</div>
	);
}
