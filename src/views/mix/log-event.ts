import type { Engine } from '@/core/judge/engine';
import { unitNamed } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import { enter } from '../data/queue';

/** Something that was poured or drained. */
export interface Pour {
	kind: EventKind;
	amount: number;
	unit: 'L' | 'mL' | 'g';
	product: string;
	note?: string;
}

/**
 * Logs what was poured at the clock of this device, as readings are, and lets the checks of this page know of it. `send`
 * takes the event where it goes with something else, such as the step of a batch.
 */
export async function logEvent(
	engine: Engine,
	station: string,
	pour: Pour,
	send: (event: Pour & { time: string }) => Promise<unknown> = (event) =>
		enter(
			'POST /events',
			{ body: { station, ...event } },
			`${station}: ${event.amount} ${event.unit} ${event.product}`,
		),
): Promise<void> {
	const at = Date.now();
	await send({ ...pour, note: pour.note ?? '', time: new Date(at).toISOString() });
	engine.note({ at, station, kind: pour.kind, amount: pour.amount, unit: unitNamed(pour.unit) ?? null });
}
