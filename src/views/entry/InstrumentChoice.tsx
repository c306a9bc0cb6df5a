import type { Quantity } from '@/core/quantity';
import { MEASURES } from '@/core/reading/protocol';
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
	of,
	onChange,
}: {
	id?: string;
	label: string;
	site: SiteView;
	value: string;
	unsaid?: boolean;
	width?: string;
	/** What can measure it comes first. */
	of?: Quantity;
	onChange: (code: string) => void;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<select id={id} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				{unsaid && <option value="">not said</option>}
				{(of ? ableFirst(site, of) : heldInHand(site)).map((i) => (
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

/** Whether an instrument measures a quantity: as its leaflet says, or as kits do. */
function measures(i: SiteInstrument, q: Quantity): boolean {
	if (i.info.quantities[q] || i.info.perDrop?.[q]) return true;
	if (q === 'ec' && i.info.quantities.tds) return true;
	// Nobody wrote down what its leaflet says.
	return (i.kind === 'drop_kit' || Object.keys(i.info.quantities).length === 0) && MEASURES[i.kind].includes(q);
}

/** What a quantity may have been measured with: what can, and beside it everything else that is held in the hand. */
export const ableFirst = (site: SiteView, q: Quantity): SiteInstrument[] => {
	const held = heldInHand(site);
	return [...held.filter((i) => measures(i, q)), ...held.filter((i) => !measures(i, q))];
};

/** What last measured a quantity here, or pH and EC (null), told by what was seen here; else the first that can. */
export function usualInstrument(site: SiteView, station: string, of: Quantity | null): string | null {
	const kinds: readonly string[] = of === null ? ['ph', 'ec', 'tds'] : of === 'ec' ? ['ec', 'tds'] : [of];
	const held = heldInHand(site);
	const able = held.filter((i) => (of === null ? measures(i, 'ph') || measures(i, 'ec') : measures(i, of)));
	let best: { instrument: string; at: number } | null = null;
	for (const { quantity, instrument, at } of site.stations.find((s) => s.info.code === station)?.seen ?? []) {
		if (
			instrument &&
			kinds.includes(quantity) &&
			(of === null ? held : able).some((i) => i.info.code === instrument) &&
			(!best || at > best.at || (at === best.at && quantity === 'ph'))
		)
			best = { instrument, at };
	}
	return best?.instrument ?? able[0]?.info.code ?? null;
}
