import type { SensorEpisode } from '@/contract/sensors';

/** What happened to one node at one time, whatever it shows there: its episodes of one cause that meet. */
export interface StretchGroup {
	/** Of its newest episode. */
	key: number;
	episodes: SensorEpisode[];
	since: number;
	until: number;
	goesOn: boolean;
}

/** What begins within this time of another is the same happening. */
const MEETS_MS = 30 * 60_000;

/** Episodes as happenings, in the order they came. */
export function stretchGroups(episodes: readonly SensorEpisode[]): StretchGroup[] {
	const groups: StretchGroup[] = [];
	for (const e of episodes) {
		const [since, until] = [Date.parse(e.since), Date.parse(e.until)];
		const group = groups.find(
			({ episodes: [first], ...g }) =>
				first!.node === e.node &&
				first!.cause === e.cause &&
				first!.station === e.station &&
				since <= g.until + MEETS_MS &&
				until >= g.since - MEETS_MS,
		);
		if (!group) {
			groups.push({ key: e.id, episodes: [e], since, until, goesOn: e.goes_on });
			continue;
		}
		group.episodes.push(e);
		group.since = Math.min(group.since, since);
		group.until = Math.max(group.until, until);
		group.goesOn ||= e.goes_on;
	}
	return groups;
}
