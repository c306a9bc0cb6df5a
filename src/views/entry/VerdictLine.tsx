import { QUANTITY, type Quantity } from '@/core/quantity';
import type { Verdict } from '@/core/reading/model';
import type { DisplayUnits } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { findingWords } from '@/words/en/finding';
import { chanceWords, shown, shownWithUnit } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

/** The verdict on one value, as it is typed: mark, sentence, next step, and the one-key fix where a slip fits. */
export function VerdictLine({
	quantity,
	verdict,
	units,
	onFix,
	fixKey,
	chance = null,
	value = null,
}: {
	quantity: Quantity;
	verdict: Verdict;
	units: DisplayUnits;
	onFix?: (() => void) | undefined;
	fixKey?: string | undefined;
	/** Chance of being in the target range. */
	chance?: number | null;
	/** What was read, canonical. */
	value?: number | null;
}) {
	const d = verdict.deciding;
	const said = findingWords(d?.said);
	const standing = standingOf({ flag: verdict.flag, decision: null });
	const { expected } = verdict;
	const usual = expected === null || value === null || (value >= expected.low && value <= expected.high);
	return (
		<div className="flex gap-2 py-1.5" data-verdict={quantity} data-flag={verdict.flag} data-cause={d?.cause ?? ''}>
			<span className="pt-1">
				<StandingMark standing={standing} />
			</span>
			<div className="min-w-0">
				{d ? (
					<>
						<p>
							<strong>{QUANTITY[quantity].name}: </strong>
							{said.message}
						</p>
						<p className="text-soft text-[0.9rem]">{said.nextStep}</p>
						{onFix && d.suggested !== null && (
							<button type="button" className="act mt-1" onClick={onFix}>
								Take {shownWithUnit(quantity, d.suggested, units)} {fixKey && <kbd>{fixKey}</kbd>}
							</button>
						)}
					</>
				) : (
					<p>
						<strong>{QUANTITY[quantity].name}</strong> {expected && !usual ? 'may be right' : 'fits'}
						{expected && (
							<span className="text-soft">
								{usual ? ' · usual here now: ' : ', though mostly it is '}
								{shown(quantity, expected.low, units)} to {shown(quantity, expected.high, units)}
							</span>
						)}
						{chance !== null && <span className="text-soft"> · in range with {chanceWords(chance)} chance</span>}
						{verdict.inRange === false && <span> · outside the target range</span>}
					</p>
				)}
			</div>
		</div>
	);
}
