import type { Undo } from '../data/undo';
import type { KitChange } from './keep-kit';

/** What was said and done at Bench beside what is typed. */
interface BenchState {
	busy: boolean;
	said: readonly string[];
	/** What of what was said can be taken back. */
	undo: Undo | null;
	problem: string;
	waitS: number | null;
	ticked: ReadonlySet<string>;
	done: ReadonlySet<string>;
	clock: number;
	/** What was said of kits since the page was made. */
	changed: Record<string, KitChange>;
}
type Change = Partial<BenchState> | ((s: BenchState) => Partial<BenchState>);

export const newBench = (clock: number): BenchState => ({
	busy: false,
	said: [],
	undo: null,
	problem: '',
	waitS: null,
	ticked: new Set<string>(),
	done: new Set<string>(),
	clock,
	changed: {},
});
export const changedBench = (s: BenchState, c: Change): BenchState => ({
	...s,
	...(typeof c === 'function' ? c(s) : c),
});
