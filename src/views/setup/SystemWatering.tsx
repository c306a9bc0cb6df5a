import { readRunTimes, readSeasons } from '@/core/rootzone/schedule';
import type { CheckedForm } from '../ui/checked-form';
import { Choice, Text } from './fields';
import { isCount, isPositive, readShare, type SystemValues } from './system-values';

const COUNT = 'Write a whole number above nothing.';
const NUMBERS = [
	['drippers', 'Drippers in all', 'Cups under some of them stand for all.', isCount, COUNT],
	['bags', 'Bags, slabs or pots', 'Trays under some of them stand for all.', isCount, COUNT],
	[
		'dripper_ml_min',
		'mL of a dripper in a minute',
		'What a run gives where nobody caught it.',
		isPositive,
		'Write a number above nothing.',
	],
	['minutes', 'Minutes of a run', 'Where a run is logged without them.', isPositive, 'Write a number above nothing.'],
	['runs_a_day', 'Runs a day', 'Bags watered often are judged tightly.', isCount, COUNT],
	[
		'held_l',
		'Litres that one bag holds',
		'How soon the drain follows a change; 5 to 14 unless you say.',
		isPositive,
		'Write a number above nothing.',
	],
] as const;

/** How a system with drippers is watered, and how far its drain may stand above its feed. */
export function SystemWatering({ form }: { form: CheckedForm<SystemValues> }) {
	return (
		<fieldset className="grid gap-4 border-t border-line pt-3" data-watering>
			<legend className="field-label">How it is watered</legend>
			<div className="grid sm:grid-cols-2 gap-4">
				{NUMBERS.map(([name, label, hint, right, say]) => (
					<Text
						key={name}
						form={form}
						name={name}
						label={label}
						width="w-full"
						mode="decimal"
						hint={hint}
						check={(text) => right(text) || say}
					/>
				))}
			</div>
			<Text
				form={form}
				name="run_times"
				label="When it runs"
				width="w-full"
				hint="7:00 9:00 13:00, or every 60 min 7:00 to 19:00, or by light: each 120 J/cm2, 1800 a day. Says the runs a day by itself."
				check={(text) =>
					readRunTimes(text) !== null || 'Write times, every 60 min 7:00 to 19:00, or each 120 J/cm2, 1800 a day.'
				}
			/>
			<Choice
				form={form}
				name="preset"
				label="Drain above feed"
				options={['', 'tight', 'usual', 'loose']}
				labels={{
					'': 'by medium and how often it is watered',
					tight: 'tight: watch 0.2, act 0.5 mS/cm',
					usual: 'usual: watch 0.5, act 1.0 mS/cm',
					loose: 'loose: watch 1.0, act 2.0 mS/cm',
				}}
				hint="Schools differ: bags watered many times a day are usually held tightly."
			/>
			<Text
				form={form}
				name="drain_pct"
				label="Share that is to run off, %"
				hint="15 to 30 unless you say otherwise; by season as 1 Apr 20 to 35; 1 Oct 15 to 30."
				check={(text) =>
					readShare(text) !== undefined ||
					readSeasons(text) !== null ||
					'Write 15 to 30, or 1 Apr 20 to 35; 1 Oct 15 to 30.'
				}
			/>
		</fieldset>
	);
}
