import { chanceInRange } from '@/core/probe/normal';
import type { Range, Verdict } from '@/core/reading/model';
import type { DisplayUnits } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { VerdictLine } from '../entry/VerdictLine';
import { GaugeStrip } from '../ui/GaugeStrip';
import type { Entry } from './dips';

/** One value while it is typed: where it lies, how sure it is, and what the checks say of it. */
export function EntryVerdict({
	entry,
	verdict,
	value,
	u,
	range,
	units,
	fixKey,
	onFix,
}: {
	entry: Entry;
	verdict: Verdict;
	value: number;
	u: number;
	range: Range | null;
	units: DisplayUnits;
	fixKey: string | undefined;
	onFix: () => void;
}) {
	return (
		<div className="grid sm:grid-cols-[190px_1fr] gap-x-5 items-start border-t border-line pt-2 mt-2">
			<GaugeStrip
				quantity={entry.q}
				value={value}
				u={u}
				range={range}
				standing={standingOf({ flag: verdict.flag, decision: null })}
				units={units}
				ends
			/>
			<VerdictLine
				chance={range && standingOf({ flag: verdict.flag }) === 'sound' ? chanceInRange(value, u, range) : null}
				quantity={entry.v.quantity}
				verdict={verdict}
				value={value}
				units={units}
				fixKey={fixKey}
				onFix={verdict.deciding?.suggested == null ? undefined : onFix}
			/>
		</div>
	);
}
