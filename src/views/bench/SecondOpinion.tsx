import { compareWitnesses, type Witness, weighWitnesses } from '@/core/probe/agreement';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ago, shown, shownWithUnit } from '../ui/format';

/** What repeats, several instruments and drop kits say together: agreed and combined, or which of them to dip. */
export function SecondOpinion({
	quantity,
	witnesses,
	now,
	units,
}: {
	quantity: 'ph' | 'ec';
	witnesses: readonly Witness[];
	now: number;
	units: DisplayUnits;
}) {
	const weighed = weighWitnesses(witnesses);
	if (!weighed) return <Repeat quantity={quantity} witnesses={witnesses} units={units} />;
	const names = [...new Set(witnesses.map((w) => w.name))];
	const of = (name: string) => witnesses.find((w) => w.name === name)!;
	const pair = names.length === 2 && witnesses.length === 2 ? compareWitnesses(of(names[0]!), of(names[1]!)) : null;
	const grade = pair?.grade ?? (weighed.consistent ? 'agree' : 'unacceptable');
	const spread = Math.max(...witnesses.map((w) => w.value)) - Math.min(...witnesses.map((w) => w.value));
	return (
		<div className="border-t border-line pt-2 mt-2" data-zeta={grade}>
			<p>
				<strong>{listed(names)}</strong>{' '}
				{grade === 'agree' && weighed.combined
					? `agree (${pair ? `ζ ${pair.zeta.toFixed(1)}` : `χ² ${weighed.chi2.toFixed(1)}`}); together ${shownWithUnit(quantity, weighed.combined.value, units)} ± ${shown(quantity, 1.96 * weighed.combined.u, units)}: most likely true.`
					: `differ by ${shown(quantity, spread, units)}, ${grade === 'unacceptable' ? 'more than' : 'about as much as'} their uncertainties allow${pair ? ` (ζ ${pair.zeta.toFixed(1)})` : ` (χ² ${weighed.chi2.toFixed(1)})`}.`}
			</p>
			{grade !== 'agree' && (
				<p className="text-soft text-[0.9rem]">
					{weighed.odd ? `${weighed.odd} stands apart from the others. ` : ''}
					{names
						.map(of)
						.map((w) => `${w.name} was checked ${w.lastCheckedAt === null ? 'never' : `${ago(w.lastCheckedAt, now)}`}`)
						.join(', ')}
					. Dip {weighed.odd ?? weighed.dip} in one {quantity === 'ph' ? 'buffer' : 'standard'}: that settles it.
				</p>
			)}
		</div>
	);
}

/** The same instrument a second time: it shows whether the reading repeats, not whether it is right. */
function Repeat({
	quantity,
	witnesses,
	units,
}: {
	quantity: 'ph' | 'ec';
	witnesses: readonly Witness[];
	units: DisplayUnits;
}) {
	if (witnesses.length < 2) return null;
	const values = witnesses.map((w) => w.value);
	const spread = Math.max(...values) - Math.min(...values);
	const mean = values.reduce((a, b) => a + b, 0) / values.length;
	const repeats = quantity === 'ph' ? spread <= 0.05 : spread <= 0.02 * mean;
	return (
		<div className="border-t border-line pt-2 mt-2" data-repeat={repeats ? 'yes' : 'no'}>
			<p>
				<strong>{witnesses[0]!.name} again:</strong>{' '}
				{repeats
					? `it repeats within ${shown(quantity, spread, units)}. That rules out a bubble or a slip, not an error of the probe: another instrument or a dip in a standard does.`
					: `it differs by ${shown(quantity, spread, units)} from itself. Rinse, swirl, wait longer, and read a third time.`}
			</p>
		</div>
	);
}

const listed = (names: readonly string[]): string =>
	names.length <= 1 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
