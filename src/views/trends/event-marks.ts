import type { StoredEvent } from '@/contract/events';
import { wallTime } from '@/core/quantity/time';

const MARK: Record<string, string> = {
	water_added: 'W',
	nutrient_added: 'N',
	acid_added: 'A',
	base_added: 'B',
	solution_changed: 'C',
};

/** With more than this many a line each would hide what is drawn: their letters stay. */
const MOST_LINES = 25;

/** What was done to the water, along the foot of a chart. */
export function eventMarks(events: readonly StoredEvent[], zone: string, theme: Record<string, string>) {
	const marked = events.filter((e) => MARK[e.kind]);
	return marked.map((e) => ({
		x: wallTime(Date.parse(e.time), zone),
		borderColor: marked.length > MOST_LINES ? 'transparent' : (theme['--soft'] ?? '#888'),
		strokeDashArray: 2,
		label: {
			text: MARK[e.kind]!,
			orientation: 'horizontal',
			position: 'bottom',
			offsetY: 0,
			borderColor: 'transparent',
			style: {
				background: theme['--color-base-100'] ?? '#fff',
				color: theme['--color-base-content'] ?? '#000',
				fontSize: '10px',
				padding: { left: 2, right: 2, top: 0, bottom: 1 },
			},
		},
	}));
}
