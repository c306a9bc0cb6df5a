import type { Aeration } from '../../chem/degassing';

/** How the kinds of system usually move their water (common practice, no source). */
const USUAL: Readonly<Record<string, Aeration>> = {
	raft_pond: 'air stone',
	bucket: 'air stone',
	channel: 'falling return',
	tower: 'falling return',
	drip_recirculating: 'falling return',
	flood_table: 'falling return',
	drip_to_drain: 'stirred',
	passive_tank: 'still',
};

/** A tank's own word, its system's, the usual of its kind; a mixing tank is stirred; else nobody knows. */
export function aerationOf(
	station: { aeration: Aeration | null; kind: string },
	system: { aeration: Aeration | null; kind: string } | null,
): Aeration | null {
	return (
		station.aeration ??
		system?.aeration ??
		(system ? (USUAL[system.kind] ?? null) : station.kind === 'mix' ? 'stirred' : null)
	);
}
