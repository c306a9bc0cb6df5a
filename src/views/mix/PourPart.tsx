import type { StoredBatch } from '@/contract/batches';
import { inLabelMeasure } from '@/core/mix/label-rate';
import { MixingWait } from './MixingWait';
import { poured } from './words';

const MINUTE = 60_000;

/** One pouring of a feed: how much, and that it is in. What was poured before it is given its time to mix. */
export function PourPart({
	batch,
	part,
	label,
	busy,
	onDone,
}: {
	batch: StoredBatch;
	/** From 0. */
	part: number;
	/** The words of its label, where it measures otherwise. */
	label: string;
	busy: boolean;
	onDone: () => void;
}) {
	const { pours, litres } = batch.plan;
	const p = pours[part]!;
	const amount = p.per_l * litres;
	const asLabel = label ? inLabelMeasure(amount, label) : null;
	const several = new Set(pours.map((x) => x.product)).size > 1;
	const name = p.bottle ? `part ${p.bottle}` : p.product;
	const before = batch.log.findLast((s) => s.step === 'part');
	const wait = before && part > 0 ? pours[part - 1]!.wait_min : 0;
	return (
		<div>
			{wait > 0 && <MixingWait key={part} mixedAt={Date.parse(before!.time) + wait * MINUTE} of="pour" />}
			<p className="text-[1.15rem]">
				Pour{' '}
				<strong>
					{poured(amount)} {p.unit}
				</strong>
				{asLabel && ` (${asLabel})`} of {several && p.bottle ? `${p.product}, ${name}` : name}, then stir
				{part + 1 < pours.length ? ' before the next part' : ' and wait until it has mixed'}.
			</p>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
				Never concentrate on concentrate. Gloves and eye protection; no food containers; the label comes first.
			</p>
			<button type="button" className="act act-main" data-part disabled={busy} onClick={onDone}>
				{p.bottle ? `Part ${p.bottle}` : several ? p.product : 'It'} is in
			</button>
		</div>
	);
}
