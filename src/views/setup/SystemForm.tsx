import { useState } from 'react';
import type { System } from '@/contract/site';
import { AERATION } from '@/core/chem/degassing';
import { CROPS, STAGES, SYSTEM_PRESETS } from '@/core/crop/presets';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';
import { SystemWatering } from './SystemWatering';

const KINDS = SYSTEM_PRESETS.map((p) => p.kind);

/** One system: plants sharing one solution. */
export function SystemForm({
	system: first,
	onSave,
}: {
	system: System;
	onSave: (y: System, ranges: boolean) => void;
}) {
	const [{ y, volume }, set] = useState({ y: first, volume: first.volume_l ? String(first.volume_l) : '' });
	const change = (by: Partial<System>) => set((now) => ({ ...now, y: { ...now.y, ...by } }));
	const litres = volume.trim() === '' ? null : decimal(volume.trim());
	const known = CROPS.some((c) => c.crop === y.crop);
	return (
		<form
			className="grid gap-4"
			data-form={`system ${y.code}`}
			onSubmit={(e) => {
				e.preventDefault();
				if (litres !== undefined) onSave({ ...y, volume_l: litres }, false);
			}}
		>
			<h2 className="text-[1.2rem]">
				{first.name ?? y.code}{' '}
				<span className="text-soft text-[0.85rem] font-normal">in files and the API: {y.code}</span>
			</h2>
			<Text label="Name" width="max-w-96" value={y.name ?? y.code} onChange={(name) => change({ name })} />
			<Choice
				label="Kind"
				width="max-w-96"
				value={y.kind}
				options={KINDS}
				onChange={(kind) => change({ kind: kind as System['kind'] })}
				hint="How the solution gets to the roots; decides what usually moves it."
			/>
			<Text
				label="Litres in all"
				width="max-w-96"
				mode="decimal"
				value={volume}
				onChange={(v) => set((now) => ({ ...now, volume: v }))}
				hint="Of its stations that do not say themselves what they hold."
				wrong={litres === undefined ? 'Write the volume as a number of litres.' : undefined}
			/>
			<Text
				label="Medium"
				width="max-w-96"
				value={y.medium ?? ''}
				onChange={(medium) => change({ medium })}
				hint="What the roots stand in: water, coir, stone wool."
			/>
			<div className="grid sm:grid-cols-2 gap-4">
				<Choice
					label="Crop"
					width="w-full"
					value={y.crop ?? ''}
					options={[...new Set([y.crop ?? '', ...CROPS.map((c) => c.crop)])]}
					onChange={(crop) => change({ crop })}
				/>
				<Choice
					label="Stage"
					width="w-full"
					value={y.stage ?? ''}
					options={[...new Set([y.stage ?? '', ...STAGES])]}
					onChange={(stage) => change({ stage })}
				/>
			</div>
			<Choice
				label="Water moved by"
				width="max-w-96"
				value={y.aeration ?? ''}
				options={['', ...Object.keys(AERATION)]}
				labels={{
					'': `as usual (${aerationOf({ aeration: null, kind: '' }, { aeration: null, kind: y.kind }) ?? 'not known'})`,
				}}
				onChange={(aeration) => change({ aeration: (aeration || null) as System['aeration'] })}
				hint="An air stone blows carbon dioxide out, and pH rises with it: doses are smaller there."
			/>
			{y.kind.startsWith('drip') && (
				<SystemWatering watering={y.watering ?? null} onChange={(watering) => change({ watering })} />
			)}
			<div className="flex flex-wrap gap-3">
				<button type="submit" className="act act-main" disabled={litres === undefined}>
					Save
				</button>
				{known && (
					<button
						type="button"
						className="act !font-normal"
						disabled={litres === undefined}
						onClick={() => litres !== undefined && onSave({ ...y, volume_l: litres }, true)}
					>
						Save, and give its stations the crop’s ranges
					</button>
				)}
			</div>
		</form>
	);
}
