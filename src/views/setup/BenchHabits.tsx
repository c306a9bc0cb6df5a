import { HIGHEST_M, LOWEST_M } from '@/core/chem/oxygen';
import type { CheckedForm } from '../ui/checked-form';
import { Choice, Text } from './fields';
import { between } from './numbers';
import type { SiteValues } from './site-values';

const WORDS = {
	calm: 'asks less often: only what is far off',
	usual: 'asks as it was measured to be right most often',
	keen: 'asks sooner, and more often in vain',
} as const;
const WAITS = [
	['waitPh', 'pH wants, seconds'],
	['waitLow', 'in rain or RO, seconds'],
	['waitEc', 'EC wants, seconds'],
] as const;

const PLACE = [
	['latitude', 'Lies degrees north', 90],
	['longitude', 'and degrees east', 180],
] as const;

/** How long readings want, and how readily the checks ask. */
export function BenchHabits({ form }: { form: CheckedForm<SiteValues> }) {
	const number = (
		name: (typeof WAITS | typeof PLACE)[number][0] | 'altitude',
		label: string,
		check: (text: string) => true | string,
		mode?: 'decimal',
	) => <Text key={name} form={form} name={name} label={label} width="w-36" mode={mode} check={check} />;
	return (
		<div className="w-full flex flex-wrap gap-3 items-end">
			{WAITS.map(([name, label]) => number(name, label, between(1, 3600, 'Write seconds, 1 to 3600.'), 'decimal'))}
			{number(
				'altitude',
				'Metres above the sea',
				between(LOWEST_M, HIGHEST_M, 'Write metres, −400 to 4000.'),
				'decimal',
			)}
			{PLACE.map(([name, label, most]) =>
				// Keys for numbers on a phone have no minus.
				number(
					name,
					label,
					(text) => text.trim() === '' || between(-most, most, `Write degrees, −${most} to ${most}; or nothing.`)(text),
				),
			)}
			<Choice form={form} name="sensitivity" label="The checks ask" width="w-32" options={['calm', 'usual', 'keen']} />
			<span className="text-soft text-[0.9rem] pb-2">{WORDS[form.watch('sensitivity')]}</span>
		</div>
	);
}
