import type { SiteView } from '@/core/reading/site-view';

/** The stations to choose from, and the one that stands there already, though it is no longer used. */
export function StationOptions({ site, also }: { site: SiteView; also: string }) {
	const used = site.stations.some((s) => s.info.code === also);
	return (
		<>
			{site.stations.map((s) => (
				<option key={s.info.code} value={s.info.code}>
					{s.name}
				</option>
			))}
			{!used && also !== '' && (
				<option value={also}>{site.retired.find((r) => r.station && r.code === also)?.name ?? also}</option>
			)}
		</>
	);
}
