import type { Station, System } from '@/contract/site';
import { AERATION } from '@/core/chem/degassing';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { mixMinutes, setMinutes } from '@/core/mix/dose/mixing-wait';
import type { CheckedForm } from '../ui/checked-form';
import { Choice, Text } from './fields';
import { between, readNumber } from './numbers';
import type { StationValues } from './station-values';

/** How a tank is dosed: what moves its water, how long a dose wants to mix, and the pH that none may pass. */
export function StationDosing({
	code,
	form,
	system,
}: {
	code: string;
	form: CheckedForm<StationValues>;
	system: System | null;
}) {
	const [kind, aeration, volume] = form.watch(['kind', 'aeration', 'volume']);
	const inherited = aerationOf(
		{ aeration: null, kind: kind as Station['kind'] },
		system && { kind: system.kind, aeration: system.aeration ?? null },
	);
	const usual = mixMinutes(
		((aeration || null) as NonNullable<Station['aeration']> | null) ?? inherited,
		readNumber(volume) ?? system?.volume_l ?? 100,
		setMinutes({ kind: kind as Station['kind'], mixMinutes: null }),
	);
	const ph = between(3, 10, 'Write a pH, 3 to 10.');
	return (
		<details className="w-full" data-dosing={code}>
			<summary className="cursor-pointer text-soft text-[0.9rem]">
				how it is dosed: what moves its water, the wait, the limits
			</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				<Choice
					form={form}
					name="aeration"
					label="Water moved by"
					width="w-64"
					options={['', ...Object.keys(AERATION)]}
					labels={{ '': `as its system (${inherited ?? 'not known'})` }}
				/>
				<Text
					form={form}
					name="mix_minutes"
					label={`Minutes a dose wants to mix (usual ${usual})`}
					width="w-64"
					mode="decimal"
					check={between(0, 1440, 'Write minutes, 0 to 1440.')}
				/>
				<Text form={form} name="least_ph" label="No acid below pH" width="w-32" mode="decimal" check={ph} />
				<Text form={form} name="most_ph" label="No base above pH" width="w-32" mode="decimal" check={ph} />
			</div>
			<p className="text-soft text-[0.85rem] max-w-[75ch]">
				Left empty: 0.3 below the range, and never below pH 5 with acid or above 7 with base. Change the limit only for
				plants that want it.
			</p>
		</details>
	);
}
