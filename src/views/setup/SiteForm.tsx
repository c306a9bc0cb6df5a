import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import { useCheckedForm } from '../ui/checked-form';
import { UNIT_LABELS } from '../ui/format';
import { BenchHabits } from './BenchHabits';
import { Choice, Text } from './fields';
import { readSite, SITE_FIELDS, siteValues } from './site-values';
import type { Refused, WholeSite } from './use-setup';

/** The site: its clock, the units it is read in, how long readings want and how readily the checks ask. */
export function SiteForm({
	site,
	zones,
	onSave,
}: {
	site: WholeSite;
	zones: string[];
	onSave: (site: WholeSite) => Promise<Refused>;
}) {
	const form = useCheckedForm({
		address: 'PUT /site',
		first: siteValues(site),
		read: (v) => ({ ok: true, body: readSite(site, v) }),
		fields: SITE_FIELDS,
	});
	return (
		<form
			className="grid gap-4"
			data-form="site"
			{...form.steady}
			onSubmit={form.handleSubmit(async (v) => void form.say((await onSave(readSite(site, v))) ?? []))}
		>
			<h2 className="text-[1.2rem]">The site</h2>
			<Text form={form} name="name" label="Name" hint="Stands at the head of every page and print." />
			<Choice
				form={form}
				name="timezone"
				label="Time zone"
				options={zones}
				hint="Which day it is, everywhere: rounds, axes, filters. What is stored does not change."
			/>
			<div className="grid sm:grid-cols-3 gap-4">
				<Choice form={form} name="ec" label="EC shown in" width="w-full" options={EC_UNITS} labels={UNIT_LABELS} />
				<Choice
					form={form}
					name="temp"
					label="Temperature in"
					width="w-full"
					options={['C', 'F']}
					labels={UNIT_LABELS}
				/>
				<Choice
					form={form}
					name="volume"
					label="Volumes of samples in"
					width="w-full"
					options={VOLUME_UNITS}
					labels={UNIT_LABELS}
				/>
			</div>
			<BenchHabits form={form} />
			<div>
				<button type="submit" className="act act-main" disabled={form.formState.isSubmitting}>
					Save site
				</button>
			</div>
		</form>
	);
}
