import { seriesQuantity } from '@/core/quantity';
import { opinionsOf, worthOf } from './dips';
import { EntryVerdict } from './EntryVerdict';
import { SecondOpinion } from './SecondOpinion';
import type { useBench } from './use-bench';

/** What is thought of each value, and what several instruments say together. */
export function Verdicts({
	bench,
	firstFix,
	onFix: fix,
}: {
	bench: Pick<ReturnType<typeof useBench>, 'site' | 'state' | 'station' | 'entries' | 'verdicts' | 'readings'>;
	/** The value that the key mends. */
	firstFix: number;
	onFix: (index: number) => void;
}) {
	const { site, state, entries, verdicts, readings } = bench;
	const { info } = bench.station;
	const instrumentOf = (code: string | null) => site.instruments.find((i) => i.info.code === code);
	return (
		<>
			{verdicts.map((v, i) => (
				<EntryVerdict
					key={`${entries[i]!.row}${entries[i]!.q}`}
					entry={entries[i]!}
					verdict={v}
					value={readings[i]!.value}
					u={worthOf(entries[i]!.v.quantity, instrumentOf(entries[i]!.instrument), v.u, readings[i]!.value).u}
					range={info.ranges[seriesQuantity(entries[i]!.v.quantity)] ?? null}
					units={site.units}
					fixKey={i === firstFix ? 'f' : undefined}
					onFix={() => fix(i)}
				/>
			))}
			{opinionsOf(entries, readings, verdicts, instrumentOf).map(({ q, witnesses }) => (
				<SecondOpinion key={q} quantity={q} witnesses={witnesses} now={state.clock} units={site.units} />
			))}
		</>
	);
}
