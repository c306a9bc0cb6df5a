import { useState } from 'react';
import type { Station, System } from '@/contract/site';
import { decimal } from '@/core/quantity';
import { tankShape } from '@/core/quantity/tank-shape';
import { STATION_KINDS } from '@/core/reading/model';
import { shapeProblem } from '@/words/en/shape';
import { Choice, Text } from './fields';
import { readRange, showRange } from './range';
import { StationDosing } from './StationDosing';
import { StationHabits } from './StationHabits';

/** One station: what it is, what feeds it, what it holds, its targets, how it is measured and dosed. */
export function StationForm({
	station: first,
	stations,
	systems,
	onSave,
}: {
	station: Station;
	stations: readonly Station[];
	systems: readonly System[];
	onSave: (s: Station) => void;
}) {
	const [{ s, ph, ec, volume }, set] = useState({
		s: first,
		ph: showRange(first.ranges?.ph, 1),
		ec: showRange(first.ranges?.ec, 1000),
		volume: first.volume_l ? String(first.volume_l) : '',
	});
	const change = (by: Partial<Station>) => set((now) => ({ ...now, s: { ...now.s, ...by } }));
	const phRange = readRange(ph, 1);
	const ecRange = readRange(ec, 1000);
	const litres = volume.trim() === '' ? null : decimal(volume.trim());
	const wrong = phRange === null || ecRange === null || litres === undefined;
	const others = stations.filter((x) => x.code !== s.code && !x.retired && x.kind !== 'standard');
	const fed = s.fed_by ?? [];
	const shape = (s.shape ?? '').trim() === '' ? null : tankShape(s.shape!);
	return (
		<form
			className="grid gap-4"
			data-form={`station ${s.code}`}
			onSubmit={(e) => {
				e.preventDefault();
				if (wrong) return;
				const { ph: _p, ec: _e, ...rest } = s.ranges ?? {};
				onSave({
					...s,
					volume_l: litres,
					ranges: { ...rest, ...(phRange && { ph: phRange }), ...(ecRange && { ec: ecRange }) },
				});
			}}
		>
			<h2 className="text-[1.2rem]">
				{first.name ?? s.code}{' '}
				<span className="text-soft text-[0.85rem] font-normal">in files and the API: {s.code}</span>
			</h2>
			<Text label="Name" width="max-w-96" value={s.name ?? s.code} onChange={(name) => change({ name })} />
			<Choice
				label="Kind"
				width="max-w-96"
				value={s.kind}
				options={STATION_KINDS}
				onChange={(kind) => change({ kind: kind as Station['kind'] })}
				hint="Decides what is measured here how often, the steps of measuring, and what the checks expect."
			/>
			<Choice
				label="System"
				width="max-w-96"
				value={s.system ?? ''}
				options={['', ...systems.filter((y) => !y.retired || y.code === s.system).map((y) => y.code)]}
				labels={Object.fromEntries(systems.map((y) => [y.code, y.name ?? y.code]))}
				onChange={(y) => change({ system: y || null })}
				hint="The plants whose solution it is; gives volume and what moves the water where nothing is said here."
			/>
			<Text
				label="Litres it holds"
				width="max-w-96"
				mode="decimal"
				value={volume}
				onChange={(v) => set((now) => ({ ...now, volume: v }))}
				hint="Doses and what was poured are reckoned by it."
				wrong={litres === undefined ? 'Write the volume as a number of litres.' : undefined}
			/>
			<Text
				label="Shape, for a dipstick"
				width="max-w-96"
				value={s.shape ?? ''}
				onChange={(shape) => change({ shape })}
				hint="60 x 40 or round 50, in cm; or a table: 10 38; 20 81. A level then says the litres."
				wrong={shape === null || shape.ok ? undefined : shapeProblem(shape.problem)}
			/>
			<div className="grid sm:grid-cols-2 gap-4">
				<Text
					label="pH range"
					width="w-full"
					value={ph}
					onChange={(v) => set((now) => ({ ...now, ph: v }))}
					hint="The quiet zone of the strip; a reading outside is not doubted for that."
					wrong={phRange === null ? 'Write a range as 5.5 to 6.5.' : undefined}
				/>
				<Text
					label="EC range, mS/cm"
					width="w-full"
					value={ec}
					onChange={(v) => set((now) => ({ ...now, ec: v }))}
					wrong={ecRange === null ? 'Write a range as 1.5 to 2.1.' : undefined}
				/>
			</div>
			<fieldset>
				<legend className="field-label">Fed by</legend>
				<div className="flex flex-wrap gap-x-5">
					{others.map((x) => (
						<label key={x.code} className="flex items-center gap-2 min-h-10">
							<input
								type="checkbox"
								checked={fed.includes(x.code)}
								onChange={(e) =>
									change({ fed_by: e.target.checked ? [...fed, x.code] : fed.filter((c) => c !== x.code) })
								}
							/>{' '}
							{x.name ?? x.code}
						</label>
					))}
				</div>
				<p className="text-soft text-[0.85rem]">Joins on the line; a change of a source is looked for downstream.</p>
			</fieldset>
			<StationHabits station={s} onChange={change} />
			{(s.kind === 'reservoir' || s.kind === 'mix') && (
				<StationDosing station={s} system={systems.find((y) => y.code === s.system) ?? null} onChange={change} />
			)}
			<div>
				<button type="submit" className="act act-main" disabled={wrong}>
					Save
				</button>
			</div>
		</form>
	);
}
