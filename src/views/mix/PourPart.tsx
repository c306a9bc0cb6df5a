import type { BatchPlan } from '@/contract/batches';
import { poured } from './words';

export const letter = (part: number): string => String.fromCharCode(65 + part);

/** One part of a feed: how much, and that it is in. */
export function PourPart({
	each,
	unit,
	plan,
	part,
	asLabel,
	busy,
	onDone,
}: {
	/** Of each part, mL or g. */
	each: number;
	unit: 'mL' | 'g';
	plan: BatchPlan;
	/** From 0. */
	part: number;
	/** In the words of the label, where it measures otherwise. */
	asLabel: string | null;
	busy: boolean;
	onDone: () => void;
}) {
	return (
		<div>
			<p className="text-[1.15rem]">
				Pour{' '}
				<strong>
					{poured(each)} {unit}
				</strong>
				{asLabel && ` (${asLabel})`} of {plan.parts > 1 ? `part ${letter(part)}` : plan.product}, then stir
				{part + 1 < plan.parts ? ' before the next part' : ' and wait until it has mixed'}.
			</p>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
				Never concentrate on concentrate. Gloves and eye protection; no food containers; the label comes first.
			</p>
			<button type="button" className="act act-main" data-part disabled={busy} onClick={onDone}>
				{plan.parts > 1 ? `Part ${letter(part)}` : 'It'} is in
			</button>
		</div>
	);
}
