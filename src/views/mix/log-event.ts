import { unitNamed } from '@/core/quantity';
import type { Engine } from '@/core/reading/engine';
import type { EventKind } from '@/core/reading/model';
import { api } from '../api';

/** Logs what was poured at the clock of this device, as readings are, and lets the checks of this page know of it. */
export async function logEvent(
	engine: Engine,
	e: { station: string; kind: EventKind; amount: number; unit: 'L' | 'mL' | 'g'; product: string; note?: string },
): Promise<void> {
	const at = Date.now();
	await api('/events', { json: { ...e, note: e.note ?? '', time: new Date(at).toISOString() } });
	engine.note({ at, station: e.station, kind: e.kind, amount: e.amount, unit: unitNamed(e.unit) ?? null });
}
