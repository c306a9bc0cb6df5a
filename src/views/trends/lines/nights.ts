import type { StoredEvent } from '@/contract/events';

/** Between lights off and lights on, where somebody noted them. */
export function nights(events: readonly StoredEvent[], from: number, to: number): [number, number][] {
	const lights = events
		.filter((e) => e.kind === 'lights_off' || e.kind === 'lights_on')
		.map((e) => ({ at: Date.parse(e.time), off: e.kind === 'lights_off' }))
		.sort((a, b) => a.at - b.at);
	const all: [number, number][] = [];
	let dark: number | null = lights[0] && !lights[0].off ? from : null;
	for (const l of lights) {
		if (l.off) dark ??= l.at;
		else if (dark !== null) {
			all.push([dark, l.at]);
			dark = null;
		}
	}
	if (dark !== null) all.push([dark, to]);
	return all;
}
