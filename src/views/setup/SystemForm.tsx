import { useState } from 'react';
import type { System } from '@/contract/site';
import { AERATION } from '@/core/chem/degassing';
import { CROPS, STAGES, SYSTEM_PRESETS } from '@/core/crop/presets';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';

const KINDS = SYSTEM_PRESETS.map((p) => p.kind);

/** One system: plants sharing one solution. */
export function SystemForm({
	system: first,
	onSave,
}: {
	system: System;
	onSave: (y: System, ranges: boolean) => void;
}) {
	const [y, setY] = useState(first);
	const [volume, setVolume] = useState(first.volume_l ? String(first.volume_l) : '');
	const litres = volume.trim() === '' ? null : decimal(volume.trim());
	const known = CROPS.some((c) => c.crop === y.crop);
	return (
		<form
			className="flex flex-wrap items-end gap-2 py-2 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				if (litres !== undefined) onSave({ ...y, volume_l: litres }, false);
			}}
		>
			<Text label="Name" width="w-32" value={y.name ?? y.code} onChange={(name) => setY({ ...y, name })} />
			<Choice
				label="Kind"
				width="w-40"
				value={y.kind}
				options={KINDS}
				onChange={(kind) => setY({ ...y, kind: kind as System['kind'] })}
			/>
			<Text label="Litres" width="w-20" mode="decimal" value={volume} onChange={setVolume} />
			<Text label="Medium" width="w-28" value={y.medium ?? ''} onChange={(medium) => setY({ ...y, medium })} />
			<Choice
				label="Crop"
				width="w-32"
				value={y.crop ?? ''}
				options={[...new Set([y.crop ?? '', ...CROPS.map((c) => c.crop)])]}
				onChange={(crop) => setY({ ...y, crop })}
			/>
			<Choice
				label="Stage"
				width="w-36"
				value={y.stage ?? ''}
				options={[...new Set([y.stage ?? '', ...STAGES])]}
				onChange={(stage) => setY({ ...y, stage })}
			/>
			<Choice
				label="Water moved by"
				width="w-44"
				value={y.aeration ?? ''}
				options={['', ...Object.keys(AERATION)]}
				labels={{
					'': `as usual (${aerationOf({ aeration: null, kind: '' }, { aeration: null, kind: y.kind }) ?? 'not known'})`,
				}}
				onChange={(aeration) => setY({ ...y, aeration: (aeration || null) as System['aeration'] })}
			/>
			<button type="submit" className="act !font-normal" disabled={litres === undefined}>
				Save
			</button>
			{known && (
				<button
					type="button"
					className="act !font-normal"
					disabled={litres === undefined}
					onClick={() => litres !== undefined && onSave({ ...y, volume_l: litres }, true)}
				>
					Save with the crop’s ranges
				</button>
			)}
		</form>
	);
}
