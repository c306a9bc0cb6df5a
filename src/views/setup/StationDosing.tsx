import { useState } from 'react';
import type { Station, System } from '@/contract/site';
import { AERATION } from '@/core/chem/degassing';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { mixMinutes, setMinutes } from '@/core/mix/dose/mixing-wait';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';

/** How a tank is dosed: what moves its water, how long a dose wants to mix, and the pH that none may pass. */
export function StationDosing({
	station: s,
	system,
	onChange,
}: {
	station: Station;
	system: System | null;
	onChange: (change: Partial<Station>) => void;
}) {
	const show = (v: number | null | undefined) => (v === null || v === undefined ? '' : String(v));
	const [wait, setWait] = useState(show(s.mix_minutes));
	const [least, setLeast] = useState(show(s.least_ph));
	const [most, setMost] = useState(show(s.most_ph));
	const inherited = aerationOf(
		{ aeration: null, kind: s.kind },
		system && { kind: system.kind, aeration: system.aeration ?? null },
	);
	const usual = mixMinutes(
		s.aeration ?? inherited,
		s.volume_l ?? system?.volume_l ?? 100,
		setMinutes({ kind: s.kind, mixMinutes: null }),
	);
	const number = (text: string, low: number, high: number, set: (v: number | null) => void) => {
		const v = text.trim() === '' ? null : decimal(text.trim());
		if (v === null || (v !== undefined && v >= low && v <= high)) set(v);
	};
	return (
		<details className="w-full" data-dosing={s.code}>
			<summary className="cursor-pointer text-soft text-[0.9rem]">
				how it is dosed: what moves its water, the wait, the limits
			</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				<Choice
					label="Water moved by"
					width="w-64"
					value={s.aeration ?? ''}
					options={['', ...Object.keys(AERATION)]}
					labels={{ '': `as its system (${inherited ?? 'not known'})` }}
					onChange={(v) => onChange({ aeration: (v || null) as Station['aeration'] })}
				/>
				<Text
					label={`Minutes a dose wants to mix (usual ${usual})`}
					width="w-64"
					mode="decimal"
					value={wait}
					onChange={(v) => {
						setWait(v);
						number(v, 0, 1440, (mix_minutes) => onChange({ mix_minutes }));
					}}
				/>
				<Text
					label="No acid below pH"
					width="w-32"
					mode="decimal"
					value={least}
					onChange={(v) => {
						setLeast(v);
						number(v, 3, 10, (least_ph) => onChange({ least_ph }));
					}}
				/>
				<Text
					label="No base above pH"
					width="w-32"
					mode="decimal"
					value={most}
					onChange={(v) => {
						setMost(v);
						number(v, 3, 10, (most_ph) => onChange({ most_ph }));
					}}
				/>
			</div>
			<p className="text-soft text-[0.85rem] max-w-[75ch]">
				Left empty: 0.3 below the range, and never below pH 5 with acid or above 7 with base. Change the limit only for
				plants that want it.
			</p>
		</details>
	);
}
