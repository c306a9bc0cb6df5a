import type { Probe } from '@/contract/probes';
import type { ProbeEventKind, Storage } from '@/core/probe/care';
import { dateFormat } from '@/core/quantity/date-format';

/** How amounts of drift and trust are said for each quantity. */
export const unitOf = (q: 'ph' | 'ec') => (q === 'ph' ? 'pH' : '%');
export const amount = (q: 'ph' | 'ec', v: number) => (q === 'ph' ? v.toFixed(2) : `${v.toFixed(1)} %`);
export const STORAGE: Record<Storage, string> = {
	kcl_3m: 'potassium chloride, 3 mol/L',
	kcl_other: 'potassium chloride, other strength',
	storage_solution: 'storage solution',
	buffer_4: 'buffer near pH 4',
	dry: 'dry and clean',
	tap: 'tap water',
	pure_water: 'pure water',
};
export const EVENT: Record<ProbeEventKind, string> = {
	dropped: 'dropped',
	dried_out: 'dried out',
	cleaned: 'cleaned',
	rehydrated: 'rehydrated',
	stored_wrong: 'stored wrong',
	new_probe: 'new probe',
};
export const day = (iso: string | number, zone: string) =>
	dateFormat('en-GB', { timeZone: zone, day: 'numeric', month: 'short', year: 'numeric' }).format(
		typeof iso === 'string' ? Date.parse(iso) : iso,
	);

/** What a reading taken now is probably off by, or good to. */
export function offWords(p: Pick<Probe, 'quantity' | 'u_today' | 'error_today' | 'error_u' | 'error_told'>): string {
	const half = 1.96 * p.u_today;
	if (!p.error_told) return `good to ±${amount(p.quantity, half)}`;
	const size = Math.abs(p.error_today);
	const least = Math.max(size - 1.96 * p.error_u, 0);
	return `probably ${amount(p.quantity, size)} ${p.error_today > 0 ? 'high' : 'low'} (${amount(p.quantity, least)} to ${amount(p.quantity, size + 1.96 * p.error_u)})`;
}
