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

/** What was poured, at the clock of this device as readings are. */
export type Poured = Pour & { note: string; time: string };

/**
 * Logs what was poured together, and lets the checks of this page know of it. `send` takes the events where they go with something
 * else, such as the step of a batch.
 * @param at by this device’s clock; said by whoever sends again what no answer came to
 */
export async function logEvents(
	engine: Engine,
	station: string,
	pours: readonly Pour[],
	send: (events: Poured[]) => Promise<unknown>,
	at = Date.now(),
): Promise<void> {
	await send(pours.map((p) => ({ ...p, note: p.note ?? '', time: new Date(at).toISOString() })));
	for (const p of pours) engine.note({ at, station, kind: p.kind, amount: p.amount, unit: unitNamed(p.unit) ?? null });
}

/** Logs one pouring by itself. */
export const logEvent = (engine: Engine, station: string, pour: Pour): Promise<void> =>
	logEvents(engine, station, [pour], ([event]) =>
		enter(
			'POST /events',
			{ body: { station, ...event! } },
			`${station}: ${event!.amount} ${event!.unit} ${event!.product}`,
		),
	);
