import { useState } from 'react';
import type { Station, System } from '@/contract/site';
import { decimal } from '@/core/quantity';
import { STATION_KINDS } from '@/core/reading/model';
import { Choice, Text } from './fields';
import { StationDosing } from './StationDosing';
import { StationHabits } from './StationHabits';

/** One station: where it stands in the line, and its targets. */
export function StationForm({
	station: first,
	systems,
	onSave,
}: {
	station: Station;
	systems: System[];
	onSave: (s: Station) => void;
}) {
	const [s, setS] = useState(first);
	const show = (r: [number, number] | undefined, factor: number) => (r ? `${r[0] / factor} to ${r[1] / factor}` : '');
	const [ph, setPh] = useState(show(s.ranges?.ph, 1));
	const [ec, setEc] = useState(show(s.ranges?.ec, 1000));
	const [volume, setVolume] = useState(s.volume_l ? String(s.volume_l) : '');
	const [problem, setProblem] = useState('');
	const range = (text: string, factor: number): [number, number] | undefined | null => {
		if (text.trim() === '') return undefined;
		const ends = text.split(/\s*(?:to|–|\.\.|;)\s*/).map((t) => decimal(t.trim()));
		if (ends.length !== 2 || ends[0] === undefined || ends[1] === undefined || !(ends[0] < ends[1])) return null;
		return [ends[0] * factor, ends[1] * factor];
	};
	return (
		<form
			className="flex flex-wrap items-end gap-2 py-2 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				const phRange = range(ph, 1);
				const ecRange = range(ec, 1000);
				const litres = volume.trim() === '' ? null : decimal(volume.trim());
				if (phRange === null || ecRange === null) return setProblem('Write a range as 5.5 to 6.5.');
				if (litres === undefined) return setProblem('Write the volume as a number of litres.');
				setProblem('');
				const { ph: _p, ec: _e, ...others } = s.ranges ?? {};
				onSave({
					...s,
					volume_l: litres,
					ranges: { ...others, ...(phRange && { ph: phRange }), ...(ecRange && { ec: ecRange }) },
				});
			}}
		>
			<Text label="Name" width="w-40" value={s.name ?? s.code} onChange={(name) => setS({ ...s, name })} />
			<Choice
				label="Kind"
				width="w-32"
				value={s.kind}
				options={STATION_KINDS}
				onChange={(kind) => setS({ ...s, kind: kind as Station['kind'] })}
			/>
			<Choice
				label="System"
				width="w-32"
				value={s.system ?? ''}
				options={['', ...systems.map((y) => y.code)]}
				onChange={(y) => setS({ ...s, system: y || null })}
			/>
			<Text label="Litres" width="w-20" mode="decimal" value={volume} onChange={setVolume} />
			<Text label="pH range" width="w-28" value={ph} onChange={setPh} />
			<Text label="EC range, mS/cm" width="w-32" value={ec} onChange={setEc} />
			<Text
				label="Place in line"
				width="w-20"
				mode="decimal"
				value={String(s.position ?? '')}
				onChange={(p) => setS({ ...s, position: Number.parseInt(p, 10) || 0 })}
			/>
			<button type="submit" className="act !font-normal">
				Save
			</button>
			<span className="text-soft text-[0.8rem] pb-2">code {s.code}</span>
			<StationHabits station={s} onChange={(change) => setS({ ...s, ...change })} />
			{(s.kind === 'reservoir' || s.kind === 'mix') && (
				<StationDosing
					station={s}
					system={systems.find((y) => y.code === s.system) ?? null}
					onChange={(change) => setS({ ...s, ...change })}
				/>
			)}
			{problem && (
				<p role="alert" className="text-error w-full">
					{problem}
				</p>
			)}
		</form>
	);
}
