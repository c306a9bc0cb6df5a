import type { SiteInstrument, SiteView } from '@/core/reading/site-view';

/** What a person holds in the hand; a node measures by itself. */
export const heldInHand = (site: SiteView): SiteInstrument[] =>
	site.instruments.filter((i) => i.kind !== 'sensor_node');

/** What a sample is measured with. */
export function InstrumentChoice({
	id,
	label,
	site,
	value,
	unsaid = false,
	width = 'w-44',
	onChange,
}: {
	id?: string;
	label: string;
	site: SiteView;
	value: string;
	unsaid?: boolean;
	width?: string;
	onChange: (code: string) => void;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<select id={id} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				{unsaid && <option value="">not said</option>}
				{heldInHand(site).map((i) => (
					<option key={i.info.code} value={i.info.code}>
						{i.name}
					</option>
				))}
			</select>
		</label>
	);
}

/** One held in the hand that has not been used in this sample yet; else the first, if there is any. */
export function otherInstrument(site: SiteView, used: readonly (string | null)[]): string {
	const held = heldInHand(site);
	return (held.find((i) => !used.includes(i.info.code)) ?? held[0])?.info.code ?? '';
}

/** What last measured a quantity here, or anything at all (null), told by what was seen here; else the first that can. */
export function usualInstrument(site: SiteView, station: string, of: 'ph' | 'ec' | null): string | null {
	const kinds: readonly string[] = of === null ? ['ph', 'ec', 'tds'] : of === 'ec' ? ['ec', 'tds'] : [of];
	const able = heldInHand(site).filter(
		(i) => of === null || (i.info.quantities[of] ?? (of === 'ec' && i.info.quantities.tds)),
	);
	let best: { instrument: string; at: number } | null = null;
	for (const { quantity, instrument, at } of site.stations.find((s) => s.info.code === station)?.seen ?? []) {
		if (
			instrument &&
			kinds.includes(quantity) &&
			able.some((i) => i.info.code === instrument) &&
			(!best || at > best.at || (at === best.at && quantity === 'ph'))
		)
			best = { instrument, at };
	}
	return best?.instrument ?? able[0]?.info.code ?? null;
}
