import { type InstrumentKind, MEASURES } from '@/core/reading/protocol';
import type { CheckedForm } from '../ui/checked-form';
import { Choice, Text, Tick } from './fields';
import type { InstrumentValues } from './instrument-values';
import { between } from './numbers';
import { isPositive } from './system-values';

const SCHOOLS = ['learned', 'weekly', 'before_use', 'monthly', 'maker'] as const;

/** What the meter's leaflet says: how finely it shows, how right it claims to be, how it is calibrated. */
export function InstrumentLeaflet({ form }: { form: CheckedForm<InstrumentValues> }) {
	const [kind, by] = form.watch(['kind', 'calibrate_by']);
	const [reads, conducts] = (['ph', 'ec'] as const).map((q) => MEASURES[kind as InstrumentKind].includes(q));
	const positive = (text: string) => isPositive(text) || 'Write a number above nothing.';
	const number = (name: 'phSteps' | 'phRight' | 'ecSteps' | 'ecRight', label: string) => (
		<Text form={form} name={name} label={label} width="w-28" mode="decimal" check={positive} />
	);
	return (
		<details className="w-full">
			<summary className="cursor-pointer text-soft text-[0.9rem]">what its leaflet says</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				{(reads || kind === 'drop_kit') && number('phSteps', 'pH steps of')}
				{(reads || kind === 'drop_kit') && number('phRight', 'pH right to ±')}
				{conducts && number('ecSteps', 'EC steps, µS/cm')}
				{conducts && number('ecRight', 'EC right to ± %')}
				<Text
					form={form}
					name="alpha"
					label="% per °C"
					width="w-20"
					mode="decimal"
					check={between(0, 3, 'Write 0 to 3.')}
				/>
				<Choice form={form} name="calibrate_by" label="Calibrate" width="w-36" options={SCHOOLS} />
				{by === 'maker' && (
					<Text form={form} name="maker_days" label="every, days" width="w-24" mode="decimal" check={positive} />
				)}
				<Choice form={form} name="remembers" label="Remembers" width="w-32" options={['0', '1', '2', '3', '4', '5']} />
				<Tick form={form} name="shows_mv">
					shows mV
				</Tick>
				<Choice form={form} name="live" label="Reads live" width="w-32" options={['none', 'simulated']} />
				<Tick form={form} name="locks">
					locks when stable
				</Tick>
			</div>
		</details>
	);
}
