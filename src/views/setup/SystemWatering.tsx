import { useState } from 'react';
import type { System } from '@/contract/site';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';

type Watering = NonNullable<System['watering']>;
const NUMBERS = [
	['drippers', 'Drippers in all', 'Cups under some of them stand for all.'],
	['bags', 'Bags, slabs or pots', 'Trays under some of them stand for all.'],
	['dripper_ml_min', 'mL of a dripper in a minute', 'What a run gives where nobody caught it.'],
	['runs_a_day', 'Runs a day', 'Bags watered often are judged tightly.'],
] as const;

/** How a system with drippers is watered, and how far its drain may stand above its feed. */
export function SystemWatering({
	watering,
	onChange,
}: {
	watering: Watering | null;
	onChange: (watering: Watering | null) => void;
}) {
	const w = watering ?? {};
	const [typed, setTyped] = useState<Record<string, string>>({
		...Object.fromEntries(NUMBERS.map(([key]) => [key, w[key] === undefined ? '' : String(w[key])])),
		drain: w.drain_pct ? w.drain_pct.join(' to ') : '',
	});
	const change = (by: Partial<Watering>) => {
		const next = Object.fromEntries(Object.entries({ ...w, ...by }).filter(([, v]) => v !== undefined)) as Watering;
		onChange(Object.keys(next).length === 0 ? null : next);
	};
	const positive = (text: string) => {
		const n = decimal(text.trim());
		return n !== undefined && n > 0 ? n : undefined;
	};
	const share = (text: string) => {
		const m = /^(\d{1,2})\D+(\d{1,2})\s*%?$/.exec(text.trim());
		return m && Number(m[1]) < Number(m[2]) ? ([Number(m[1]), Number(m[2])] as [number, number]) : undefined;
	};
	return (
		<fieldset className="grid gap-4 border-t border-line pt-3" data-watering>
			<legend className="field-label">How it is watered</legend>
			<div className="grid sm:grid-cols-2 gap-4">
				{NUMBERS.map(([key, label, hint]) => (
					<Text
						key={key}
						label={label}
						width="w-full"
						mode="decimal"
						hint={hint}
						value={typed[key]!}
						wrong={
							typed[key]!.trim() !== '' && positive(typed[key]!) === undefined
								? 'Write a number above nothing.'
								: undefined
						}
						onChange={(text) => {
							setTyped({ ...typed, [key]: text });
							const n = positive(text);
							change({ [key]: key === 'dripper_ml_min' || n === undefined ? n : Math.round(n) });
						}}
					/>
				))}
			</div>
			<Choice
				label="Drain above feed"
				width="max-w-96"
				value={w.preset ?? ''}
				options={['', 'tight', 'usual', 'loose']}
				labels={{
					'': 'by how often it is watered',
					tight: 'tight: watch 0.2, act 0.5 mS/cm',
					usual: 'usual: watch 0.5, act 1.0 mS/cm',
					loose: 'loose: watch 1.0, act 2.0 mS/cm',
				}}
				onChange={(preset) => change({ preset: (preset || undefined) as Watering['preset'] })}
				hint="Schools differ: bags watered many times a day are usually held tightly."
			/>
			<Text
				label="Share that is to run off, %"
				width="max-w-96"
				value={typed.drain!}
				onChange={(text) => {
					setTyped({ ...typed, drain: text });
					change({ drain_pct: share(text) });
				}}
				hint="15 to 30 unless you say otherwise; more in summer and with salty water."
				wrong={typed.drain!.trim() !== '' && !share(typed.drain!) ? 'Write a range as 15 to 30.' : undefined}
			/>
		</fieldset>
	);
}
