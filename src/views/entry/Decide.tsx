import { Suspense, useReducer } from 'react';
import type { StoredReading } from '@/contract/readings';
import { QUANTITY, type Unit, unitNamed } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { mayBeDecided } from '@/core/trust/trust';
import { enter } from '../data/queue';
import { ago, unitLabel } from '../ui/format';
import { later } from '../ui/later';
import { StandingMark } from '../ui/StandingMark';
import { enterDecision } from './decisions';
import { fixedValue } from './fix';

const ReadingFix = later(() => import('./ReadingFix'));

export type Decided = 'correct' | 'keep' | 'discard' | 'retest';

/** A reading and what a person may do about it: take the suggestion, mend it, keep it, read it again, discard it with a reason. */
export function Decide({
	reading,
	site,
	now,
	onDone,
}: {
	reading: StoredReading;
	site: SiteView;
	now: number;
	onDone: (what: Decided) => void;
}) {
	const [s, set] = useReducer((a: State, change: Partial<State>) => ({ ...a, ...change }), {
		doing: null,
		reason: '',
		problem: '',
	});
	const station = site.stations.find((x) => x.info.code === reading.station)?.name ?? reading.station;
	const named = `${station} ${QUANTITY[reading.quantity].name} ${reading.value} ${unitLabel(reading.unit)}`.trim();
	const doubted = mayBeDecided(reading);
	const given = reading.decision === 'discard';
	const attempt = async (what: Decided, work: () => Promise<unknown>) => {
		try {
			await work();
			onDone(what);
		} catch (error) {
			set({ problem: (error as Error).message });
		}
	};
	const decide = (kind: 'keep' | 'discard' | 'retest', why = '') =>
		attempt(kind, () => enterDecision(reading, kind, named, why));
	const unit = (unitNamed(reading.unit) ?? 'pH') as Unit;
	const target: Unit = reading.cause === 'unit-slip' && reading.quantity === 'ec' ? site.units.ec : unit;
	const take = () =>
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
		);
	return (
		<div className="py-1.5" data-decide={reading.id}>
			<p>
				<StandingMark standing={standingOf(reading)} /> <strong>{named}</strong>, {ago(Date.parse(reading.time), now)}.{' '}
				{given ? `Discarded: ${reading.reason ?? ''}.` : reading.message || 'It fits what this station showed before.'}
			</p>
			<p className="text-soft text-[0.85rem] mb-1.5">{reading.next_step}</p>
			{s.doing === 'fix' && (
				<Suspense>
					<ReadingFix
						reading={reading}
						site={site}
						named={named}
						onDone={() => onDone('correct')}
						onBack={() => set({ doing: null })}
					/>
				</Suspense>
			)}
			{s.doing === 'discard' && (
				<form
					onSubmit={(e) => {
						e.preventDefault();
						decide('discard', s.reason);
					}}
				>
					<label className="field-label" htmlFor={`why-${reading.id}`}>
						Why is it discarded?
					</label>
					<input
						id={`why-${reading.id}`}
						className="field mb-1.5"
						value={s.reason}
						maxLength={500}
						onChange={(e) => set({ reason: e.target.value })}
					/>
					<button type="submit" className="act" disabled={s.reason.trim() === ''}>
						Discard
					</button>{' '}
					<button type="button" className="act !border-transparent" onClick={() => set({ doing: null })}>
						Back
					</button>
				</form>
			)}
			{s.doing === null && (
				<div className="flex flex-wrap gap-1.5">
					{reading.suggested !== null && doubted && (
						<button type="button" className="act" onClick={take}>
							Take {fixedValue(reading.suggested, target, reading.value)} {unitLabel(target)}
						</button>
					)}
					{doubted && (
						<button type="button" className="act !font-normal" onClick={() => decide('keep')}>
							Keep
						</button>
					)}
					<button type="button" className="act !font-normal" onClick={() => set({ doing: 'fix' })}>
						Correct…
					</button>
					{!given && (
						<button type="button" className="act !font-normal" onClick={() => set({ doing: 'discard' })}>
							Discard…
						</button>
					)}
					{!doubted && !given && (
						<button type="button" className="act !font-normal" onClick={() => decide('retest')}>
							Read it again
						</button>
					)}
				</div>
			)}
			{s.problem && (
				<p role="alert" className="text-error mt-1">
					{s.problem}
				</p>
			)}
		</div>
	);
}

interface State {
	doing: 'fix' | 'discard' | null;
	reason: string;
	problem: string;
}
