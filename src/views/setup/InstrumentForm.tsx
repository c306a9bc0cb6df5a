import { useState } from 'react';
import type { Instrument } from '@/contract/site';
import { Choice, Text } from './fields';
import { InstrumentLeaflet } from './InstrumentLeaflet';
import { ScaleFinder } from './ScaleFinder';

const KINDS: readonly Instrument['kind'][] = ['combined', 'ph', 'ec', 'drop_kit', 'sensor_node'];

/** One instrument: its scale, its compensation, and what its leaflet says. */
export function InstrumentForm({
	instrument: first,
	onSave,
}: {
	instrument: Instrument;
	onSave: (i: Instrument) => void;
}) {
	const [i, set] = useState(first);
	const [finding, setFinding] = useState(false);
	const change = (by: Partial<Instrument>) => set((now) => ({ ...now, ...by }));
	return (
		<form
			className="grid gap-4"
			data-form={`instrument ${i.code}`}
			onSubmit={(e) => {
				e.preventDefault();
				onSave(i);
			}}
		>
			<h2 className="text-[1.2rem]">
				{first.name ?? i.code}{' '}
				<span className="text-soft text-[0.85rem] font-normal">in files and the API: {i.code}</span>
			</h2>
			<Text label="Name" width="max-w-96" value={i.name ?? i.code} onChange={(name) => change({ name })} />
			<Choice
				label="Kind"
				width="max-w-96"
				value={i.kind}
				options={KINDS}
				labels={{ combined: 'pH and EC', ph: 'pH', ec: 'EC' }}
				onChange={(kind) => change({ kind })}
				hint="Decides the steps of measuring with it, and which standards it is dipped in."
			/>
			{i.kind !== 'ph' && i.kind !== 'drop_kit' && (
				<div>
					<Choice
						label="ppm scale"
						width="max-w-96"
						value={String(i.ppm_scale ?? '')}
						options={['', '500', '640', '700']}
						onChange={(v) => change({ ppm_scale: v === '' ? null : (Number(v) as 500) })}
						hint="The same water is 500 ppm on one meter and 700 on another. Its past is read again by what you choose."
					/>
					<button type="button" className="act !font-normal mt-2" onClick={() => setFinding(!finding)}>
						Find the scale
					</button>
					{finding && (
						<div className="mt-2">
							<ScaleFinder
								onFound={(ppm_scale) => {
									setFinding(false);
									onSave({ ...i, ppm_scale });
								}}
							/>
						</div>
					)}
				</div>
			)}
			{i.kind !== 'drop_kit' && (
				<label className="flex gap-2 items-center min-h-10">
					<input
						type="checkbox"
						checked={i.compensates ?? true}
						onChange={(e) => change({ compensates: e.target.checked })}
					/>{' '}
					brings EC to 25 °C by itself (it says ATC)
				</label>
			)}
			<InstrumentLeaflet i={i} onChange={change} />
			<div>
				<button type="submit" className="act act-main">
					Save
				</button>
			</div>
		</form>
	);
}
