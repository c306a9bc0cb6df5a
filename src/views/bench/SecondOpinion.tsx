import { secondOpinion, type Witness } from '@/core/probe/second-opinion';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ago, chanceWords, shown, shownWithUnit } from '../ui/format';

/** What repeats, several instruments and drop kits say together: whom to believe, and which dip settles the rest. */
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
	const opinion = secondOpinion(witnesses, now);
	if (!opinion) return <Repeat quantity={quantity} witnesses={witnesses} units={units} />;
	const { agree, zeta, believed, odd, dip, chance } = opinion;
	const names = [...new Set(witnesses.map((w) => w.name))];
	const of = (name: string) => witnesses.find((w) => w.name === name)!;
	const combined = `${shownWithUnit(quantity, opinion.combined.value, units)} ± ${shown(quantity, 1.96 * opinion.combined.u, units)}`;
	const spread = Math.max(...witnesses.map((w) => w.value)) - Math.min(...witnesses.map((w) => w.value));
	const meters = names.map(of).filter((w) => !w.interval);
	const score = zeta === null ? '' : ` (ζ ${zeta.toFixed(1)})`;
	const standard = quantity === 'ph' ? 'the 7' : 'one standard';
	const grade = agree ? 'agree' : zeta !== null && zeta <= 3 ? 'questionable' : 'unacceptable';
	return (
		<div className="border-t border-line pt-2 mt-2" data-zeta={grade}>
			<p>
				<strong>{listed(names)}</strong>{' '}
				{agree
					? `agree${score}; together ${combined}: most likely true.`
					: `differ by ${shown(quantity, spread, units)}, ${grade === 'unacceptable' ? 'more than' : 'about as much as'} they can and be right together${score}.`}
			</p>
			{!agree && (
				<>
					<p data-believed={believed.join(' ')}>
						{listed(believed)} {believed.length > 1 ? 'are' : 'is'} the likelier ({chanceWords(chance)}): {combined}.{' '}
						{listed(odd)} {odd.length > 1 ? 'stand' : 'stands'} apart
						{odd.every((n) => of(n).interval) ? ', and a kit cannot be dipped in a standard' : ''}.
					</p>
					<p>
						<strong>
							Dip {listed(dip)} in {standard}:
						</strong>{' '}
						that settles it.
						{odd.every((n) => of(n).interval) &&
							' If they show it rightly, do the kit again: fresh reagent, clean tube, daylight.'}
					</p>
					<p className="text-soft text-[0.9rem]">
						{meters
							.map(
								(w) =>
									`${w.name} was checked ${w.lastCheckedAt === null ? 'never' : ago(w.lastCheckedAt, now)}${dips(w)}`,
							)
							.join(', ')}
						.
					</p>
				</>
			)}
		</div>
	);
}

/** How its dips in standards came out. */
const dips = ({ record: { passed, failed } }: Witness): string =>
	passed + failed === 0 ? '' : ` (${passed} of ${passed + failed} dips passed)`;

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
