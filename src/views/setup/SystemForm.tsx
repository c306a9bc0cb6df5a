import type { System } from '@/contract/site';
import { AERATION } from '@/core/chem/degassing';
import { CROPS, STAGES, SYSTEM_PRESETS } from '@/core/crop/presets';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { useCheckedForm } from '../ui/checked-form';
import { Choice, Text } from './fields';
import { type Since, SinceWhen, useSince } from './SinceWhen';
import { SystemWatering } from './SystemWatering';
import { isCount, isPositive, readSystem, SYSTEM_FIELDS, systemValues } from './system-values';
import type { Refused } from './use-setup';

const KINDS = SYSTEM_PRESETS.map((p) => p.kind);

/** One system: plants sharing one solution. */
export function SystemForm({
	system: y,
	zone,
	onSave,
}: {
	system: System;
	zone: string;
	onSave: (y: System, ranges: boolean, since: Since) => Promise<Refused>;
}) {
	const first = systemValues(y);
	const form = useCheckedForm({
		address: 'POST /systems',
		first,
		read: (v) => ({ ok: true, body: readSystem(y, v) }),
		fields: SYSTEM_FIELDS,
	});
	const kind = form.watch('kind') as System['kind'];
	const changed = (['volume', 'crop', 'stage'] as const).some((f) => form.watch(f) !== first[f]);
	const { since, asked } = useSince(zone, changed);
	const save = (ranges: boolean) =>
		form.handleSubmit(async (v) => {
			if (since !== null) form.say((await onSave(readSystem(y, v), ranges, since)) ?? []);
		});
	const busy = form.formState.isSubmitting;
	return (
		<form className="grid gap-4" data-form={`system ${y.code}`} {...form.steady} onSubmit={save(false)}>
			<h2 className="text-[1.2rem]">
				{y.name ?? y.code} <span className="text-soft text-[0.85rem] font-normal">in files and the API: {y.code}</span>
			</h2>
			<Text form={form} name="name" label="Name" />
			<Choice
				form={form}
				name="kind"
				label="Kind"
				options={KINDS}
				hint="How the solution gets to the roots; decides what usually moves it."
			/>
			<Text
				form={form}
				name="volume"
				label="Litres in all"
				mode="decimal"
				hint="Of its stations that do not say themselves what they hold."
				check={(text) => isPositive(text) || 'Write the volume as a number of litres.'}
			/>
			<Text
				form={form}
				name="plants"
				label="Plants"
				mode="decimal"
				hint="What one of them drinks a day is then told."
				check={(text) => isCount(text) || 'Write a whole number above nothing.'}
			/>
			<Text form={form} name="medium" label="Medium" hint="What the roots stand in: water, coir, stone wool." />
			<div className="grid sm:grid-cols-2 gap-4">
				<Choice
					form={form}
					name="crop"
					label="Crop"
					width="w-full"
					options={[...new Set([y.crop ?? '', '', ...CROPS.map((c) => c.crop)])]}
				/>
				<Choice
					form={form}
					name="stage"
					label="Stage"
					width="w-full"
					options={[...new Set([y.stage ?? '', '', ...STAGES])]}
				/>
			</div>
			<Choice
				form={form}
				name="aeration"
				label="Water moved by"
				options={['', ...Object.keys(AERATION)]}
				labels={{
					'': `as usual (${aerationOf({ aeration: null, kind: '' }, { aeration: null, kind }) ?? 'not known'})`,
				}}
				hint="An air stone blows carbon dioxide out, and pH rises with it: doses are smaller there."
			/>
			{kind.startsWith('drip') && <SystemWatering form={form} />}
			{changed && <SinceWhen {...asked} />}
			<div className="flex flex-wrap gap-3">
				<button type="submit" className="act act-main" disabled={busy}>
					Save
				</button>
				{CROPS.some((c) => c.crop === form.watch('crop')) && (
					<button
						type="button"
						className="act !font-normal"
						disabled={busy}
						// As Save does by itself: what nobody understands is said, and not sent.
						onClick={(e) => e.currentTarget.form?.reportValidity() && save(true)(e)}
					>
						Save, and give its stations the crop’s ranges
					</button>
				)}
			</div>
		</form>
	);
}
