import { compareWitnesses, type Witness } from '@/core/probe/agreement';
import type { DisplayUnits } from '@/core/reading/site-view';
import { age, shown, shownWithUnit } from '../ui/format';

/** What two instruments in one sample say together: agreed and combined, or which of them to dip. */
export function SecondOpinion({
	quantity,
	a,
	b,
	now,
	units,
}: {
	quantity: 'ph' | 'ec';
	a: Witness;
	b: Witness;
	now: number;
	units: DisplayUnits;
}) {
	const { zeta, grade, dip, combined } = compareWitnesses(a, b);
	const checked = (w: Witness) =>
		`${w.name} was checked ${w.lastCheckedAt === null ? 'never' : `${age(w.lastCheckedAt, now)} ago`}`;
	return (
		<div className="border-t border-line pt-2 mt-2" data-zeta={grade}>
			<p>
				<strong>
					{a.name} and {b.name}
				</strong>{' '}
				{grade === 'agree' && combined
					? `agree (ζ ${zeta.toFixed(1)}); together ${shownWithUnit(quantity, combined.value, units)} ± ${shown(quantity, 1.96 * combined.u, units)}.`
					: `differ by ${shown(quantity, Math.abs(a.value - b.value), units)}, ${grade === 'unacceptable' ? 'more than' : 'about as much as'} their uncertainties allow (ζ ${zeta.toFixed(1)}).`}
			</p>
			{grade !== 'agree' && (
				<p className="text-soft text-[0.9rem]">
					{checked(a)}, {checked(b)}. Dip {dip} in one {quantity === 'ph' ? 'buffer' : 'standard'}: that settles it.
				</p>
			)}
		</div>
	);
}
