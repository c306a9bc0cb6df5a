import type { SiteView } from '@/core/reading/site-view';

/** What a sample is measured with: whatever a person holds in the hand. */
export function InstrumentChoice({
	id,
	label,
	site,
	value,
	unsaid = false,
	onChange,
}: {
	id: string;
	label: string;
	site: SiteView;
	value: string;
	unsaid?: boolean;
	onChange: (code: string) => void;
}) {
	return (
		<div className="w-44">
			<label className="field-label" htmlFor={id}>
				{label}
			</label>
			<select id={id} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				{unsaid && <option value="">not said</option>}
				{site.instruments
					.filter((i) => i.kind !== 'sensor_node')
					.map((i) => (
						<option key={i.info.code} value={i.info.code}>
							{i.name}
						</option>
					))}
			</select>
		</div>
	);
}

/** One that has not been used in this sample yet; else the first. */
export const otherInstrument = (site: SiteView, used: readonly (string | null)[]): string =>
	(site.instruments.find((i) => i.kind !== 'sensor_node' && !used.includes(i.info.code)) ?? site.instruments[0]!).info
		.code;
