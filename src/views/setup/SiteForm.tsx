import { useState } from 'react';
import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import { UNIT_LABELS } from '../ui/format';
import { BenchHabits } from './BenchHabits';
import { Choice, Text } from './fields';
import type { WholeSite } from './use-setup';

/** The site: its clock, the units it is read in, how long readings want and how readily the checks ask. */
export function SiteForm({
	site: first,
	zones,
	onSave,
}: {
	site: WholeSite;
	zones: string[];
	onSave: (site: WholeSite) => void;
}) {
	const [site, setSite] = useState(first);
	const units = (change: Partial<WholeSite['units']>) => setSite({ ...site, units: { ...site.units, ...change } });
	return (
		<form
			className="grid gap-4"
			data-form="site"
			onSubmit={(e) => {
				e.preventDefault();
				onSave(site);
			}}
		>
			<h2 className="text-[1.2rem]">The site</h2>
			<Text
				label="Name"
				width="max-w-96"
				value={site.name}
				onChange={(name) => setSite({ ...site, name })}
				hint="Stands at the head of every page and print."
			/>
			<Choice
				label="Time zone"
				width="max-w-96"
				value={site.timezone}
				options={zones}
				onChange={(timezone) => setSite({ ...site, timezone })}
				hint="Which day it is, everywhere: rounds, axes, filters. What is stored does not change."
			/>
			<div className="grid sm:grid-cols-3 gap-4">
				<Choice
					label="EC shown in"
					width="w-full"
					value={site.units.ec ?? 'mS/cm'}
					options={EC_UNITS}
					labels={UNIT_LABELS}
					onChange={(ec) => units({ ec })}
				/>
				<Choice
					label="Temperature in"
					width="w-full"
					value={site.units.temp ?? 'C'}
					options={['C', 'F']}
					labels={UNIT_LABELS}
					onChange={(temp) => units({ temp })}
				/>
				<Choice
					label="Volumes of samples in"
					width="w-full"
					value={site.units.volume ?? 'L'}
					options={VOLUME_UNITS}
					labels={UNIT_LABELS}
					onChange={(volume) => units({ volume })}
				/>
			</div>
			<BenchHabits settings={site.settings} onChange={(settings) => setSite({ ...site, settings })} />
			<div>
				<button type="submit" className="act act-main">
					Save site
				</button>
			</div>
		</form>
	);
}
