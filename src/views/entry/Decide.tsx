import { useState } from 'react';
import type { StoredReading } from '@/contract/readings';
import { QUANTITY, type Unit, unitNamed } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { enter } from '../data/queue';
import { age, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { enterDecision } from './decisions';
import { fixedValue } from './fix';

/** A doubtful reading and what a person may do about it: take the suggestion, keep it, discard it with a reason. */
export function Decide({
	reading,
	site,
	now,
	onDone,
}: {
	reading: StoredReading;
	site: SiteView;
	now: number;
	onDone: (what: string) => void;
}) {
	const [discarding, setDiscarding] = useState(false);
	const [reason, setReason] = useState('');
	const [problem, setProblem] = useState('');
	const station = site.stations.find((s) => s.info.code === reading.station)?.name ?? reading.station;
	const named = `${station} ${QUANTITY[reading.quantity].name} ${reading.value} ${unitLabel(reading.unit)}`.trim();
	const attempt = async (what: string, work: () => Promise<unknown>) => {
		try {
			await work();
			onDone(what);
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const decide = (kind: 'keep' | 'discard' | 'retest', why = '') =>
		attempt(kind, () => enterDecision(reading, kind, named, why));
	const unit = (unitNamed(reading.unit) ?? 'pH') as Unit;
	const target: Unit = reading.cause === 'unit-slip' && reading.quantity === 'ec' ? site.units.ec : unit;
	return (
		<div className="py-1.5" data-decide={reading.id}>
			<p>
				<StandingMark standing={standingOf(reading)} /> <strong>{named}</strong>, {age(Date.parse(reading.time), now)}{' '}
				ago. {reading.message}
			</p>
			<p className="text-soft text-[0.85rem] mb-1.5">{reading.next_step}</p>
			{discarding ? (
				<form
					onSubmit={(e) => {
						e.preventDefault();
						decide('discard', reason);
					}}
				>
					<label className="field-label" htmlFor={`why-${reading.id}`}>
						Why is it discarded?
					</label>
					<input
						id={`why-${reading.id}`}
						className="field mb-1.5"
						value={reason}
						onChange={(e) => setReason(e.target.value)}
					/>
					<button type="submit" className="act" disabled={reason.trim() === ''}>
						Discard
					</button>{' '}
					<button type="button" className="act !border-transparent" onClick={() => setDiscarding(false)}>
						Back
					</button>
				</form>
			) : (
				<div className="flex flex-wrap gap-1.5">
					{reading.suggested !== null && (
						<button
							type="button"
							className="act"
							onClick={() =>
								attempt('correct', () =>
									enter(
										'POST /readings/:id/correction',
										{
											params: { id: reading.id },
											body: {
												value: fixedValue(reading.suggested!, target, reading.value),
												unit: target,
												reason: reading.cause,
											},
										},
										`correction of ${named}`,
									),
								)
							}
						>
							Take {fixedValue(reading.suggested, target, reading.value)} {unitLabel(target)}
						</button>
					)}
					<button type="button" className="act !font-normal" onClick={() => decide('keep')}>
						Keep
					</button>
					<button type="button" className="act !font-normal" onClick={() => setDiscarding(true)}>
						Discard…
					</button>
				</div>
			)}
			{problem && (
				<p role="alert" className="text-error mt-1">
					{problem}
				</p>
			)}
		</div>
	);
}
