import type { Lot } from '@/contract/calibrations';
import { bottleWords } from '@/words/en/calibration';

/** What was read is what another bottle should show: asks before it is taken as an error of the probe. */
export function WrongBottle({
	found,
	other,
	lots,
	onOther,
	onRight,
}: {
	found: string;
	other: string;
	/** The owner's bottles. */
	lots: readonly Lot[];
	onOther: (standard: string) => void;
	onRight: () => void;
}) {
	return (
		<div className="border-l-4 border-warning pl-3 py-1 my-2" role="alert">
			<p>
				It reads {found}: is this {bottleWords(other, lots)}?
			</p>
			<button type="button" className="act mt-1" onClick={() => onOther(other)}>
				Yes, {other}
			</button>{' '}
			<button type="button" className="act !font-normal" onClick={onRight}>
				No, it is right as it is
			</button>
		</div>
	);
}
