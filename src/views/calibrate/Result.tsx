import { type ReactNode, useEffect, useRef } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { Probe } from '@/contract/probes';
import { amount } from '../probes/words';

export type Outcome = Got<Contract['POST /calibrations']>;

/** What a calibration came to, and what it means for the readings before it. */
export function Result({
	outcome,
	probe,
	now,
	onAgain,
}: {
	outcome: Outcome;
	probe: Probe;
	/** What to do with it now. */
	now?: ReactNode;
	onAgain: () => void;
}) {
	const { result } = outcome;
	const heading = useRef<HTMLHeadingElement>(null);
	useEffect(() => heading.current?.focus(), []);
	const q = probe.quantity;
	return (
		<div className="max-w-[46rem]" data-outcome={outcome.id}>
			<h1 ref={heading} tabIndex={-1}>
				{probe.name}: {result.verdict === 'good' ? 'good' : result.verdict === 'watch' ? 'watch it' : 'it fails'}
			</h1>
			<p className="mt-2">
				{q === 'ph'
					? `As found it was ${amount('ph', Math.abs(result.offset))} too ${result.offset >= 0 ? 'high' : 'low'}${result.slope_pct === null ? '' : `, slope ${result.slope_pct.toFixed(1)} %`}.`
					: `Cell factor ${result.cell_factor?.toFixed(3)}.`}
			</p>
			<Before probe={probe} />
			{result.reasons.map((r) => (
				<p key={r.message}>{r.message}</p>
			))}
			{outcome.doubts.map((d) => (
				<p key={d} className="text-soft">
					{d}
				</p>
			))}
			{now}
			<div className="note-rule mt-4">
				<h2>What it means for the readings before</h2>
				<p data-restated={outcome.restated}>
					{outcome.restated > 0
						? `${outcome.restated} ${outcome.restated === 1 ? 'reading' : 'readings'} since the last calibration ${outcome.restated === 1 ? 'has' : 'have'} been restated; the originals stand beside them.`
						: 'The readings since the last calibration stand as they are.'}
					{outcome.provisional &&
						' It is provisional: another meter erred alike in the same bottle. Dip both in a second lot.'}
					{outcome.rejected > 0 && ` ${outcome.rejected} lie too far off to be put right.`}
				</p>
			</div>
			<a className="act act-main" href={`/probes/${encodeURIComponent(probe.instrument)}/${q}`}>
				See what changed
			</a>{' '}
			<button type="button" className="act !font-normal" onClick={onAgain}>
				Another calibration
			</button>
			<p className="text-soft mt-3">
				Rinse the probe and put it back:{' '}
				{q === 'ph'
					? 'the bulb stays wet in its storage solution'
					: 'the cell is kept dry and clean; a combined pen stays wet'}
				.
			</p>
		</div>
	);
}

/** The calibration before this one, to hold the new one against. */
function Before({ probe }: { probe: Probe }) {
	if (probe.last_offset === null) return <p className="text-soft">It is the first calibration of this probe here.</p>;
	const words =
		probe.quantity === 'ec'
			? `cell factor ${probe.last_cell_factor?.toFixed(3)}`
			: `${amount('ph', Math.abs(probe.last_offset))} too ${probe.last_offset >= 0 ? 'high' : 'low'}${probe.last_slope_pct === null ? '' : `, slope ${probe.last_slope_pct.toFixed(1)} %`}`;
	return (
		<p className="text-soft" data-before>
			The time before: {words}.
		</p>
	);
}
