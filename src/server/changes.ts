import { EventEmitter } from 'node:events';

/** What was entered just now, told to every page that is open, so that two people at one station see each other. */
export interface Change {
	kind: 'readings' | 'decision' | 'event' | 'round';
	station: string | null;
	/** For readings: what was entered, as Bench takes it in. */
	readings?: { time: string; quantity: string; value: string; unit: string; instrument: string | null; flag: number }[];
	/** Made by the page that entered it, so that it can know its own. */
	by: string;
}

const bus = new EventEmitter();
bus.setMaxListeners(0);

export const announce = (change: Change): void => {
	bus.emit('change', change);
};

export function onChange(listener: (change: Change) => void): () => void {
	bus.on('change', listener);
	return () => bus.off('change', listener);
}
