import { useReducer } from 'react';
import type { StoredReading } from '@/contract/readings';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { heldInHand } from '../entry/InstrumentChoice';

interface State {
	station: string;
	instrument: string;
	reason: string;
	problem: string;
	busy: boolean;
}
const NOTHING: State = { station: '', instrument: '', reason: '', problem: '', busy: false };

/** What can be done about many readings at once: where they were, what with, keep or discard; all or none. */
export function ManyChosen({
	readings,
	site,
	onDone,
	onForget,
}: {
	readings: readonly StoredReading[];
	site: SiteView;
	onDone: (words: string) => void;
	onForget: () => void;
}) {
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), NOTHING);
	const n = readings.length;
	const many = `${n} ${n === 1 ? 'reading' : 'readings'}`;
	async function attempt(work: () => Promise<unknown>, words: string) {
		set({ busy: true, problem: '' });
		try {
			await work();
			set(NOTHING);
			onDone(words);
		} catch (error) {
			set({ problem: (error as Error).message });
		} finally {
			set({ busy: false });
		}
	}
	const decide = (kind: 'keep' | 'discard') =>
		attempt(
			() =>
				api('POST /readings/decisions', {
					body: { readings: readings.map((r) => ({ id: r.id, after: r.decision })), kind, reason: s.reason },
				}),
			`${many} ${kind === 'keep' ? 'kept' : 'discarded'}.`,
		);
	const correct = () =>
		attempt(
			() =>
				api('POST /readings/corrections', {
					body: {
						ids: readings.map((r) => r.id),
						...(s.station ? { station: s.station } : {}),
						...(s.instrument ? { instrument: s.instrument } : {}),
						reason: s.reason,
					},
				}),
			`${many} corrected; the originals stay in their history.`,
		);
	return (
		<section className="border-l-4 border-base-content pl-3 py-2 mb-3" aria-label="Chosen readings" data-chosen={n}>
			<div className="flex flex-wrap gap-2 items-end">
				<strong className="min-h-10 flex items-center pr-2">{many}</strong>
				<label className="block w-40">
					<span className="field-label">were at</span>
					<select className="field" value={s.station} onChange={(e) => set({ station: e.target.value })}>
						<option value="">as they are</option>
						{site.stations.map((x) => (
							<option key={x.info.code} value={x.info.code}>
								{x.name}
							</option>
						))}
					</select>
				</label>
				<label className="block w-40">
					<span className="field-label">measured with</span>
					<select className="field" value={s.instrument} onChange={(e) => set({ instrument: e.target.value })}>
						<option value="">as they are</option>
						{heldInHand(site).map((x) => (
							<option key={x.info.code} value={x.info.code}>
								{x.name}
							</option>
						))}
					</select>
				</label>
				<button type="button" className="act" disabled={s.busy || (!s.station && !s.instrument)} onClick={correct}>
					Correct them
				</button>
				<label className="block grow min-w-40">
					<span className="field-label">Why; needed to discard</span>
					<input className="field" value={s.reason} maxLength={500} onChange={(e) => set({ reason: e.target.value })} />
				</label>
				<button type="button" className="act !font-normal" disabled={s.busy} onClick={() => decide('keep')}>
					Keep
				</button>
				<button
					type="button"
					className="act !font-normal"
					disabled={s.busy || s.reason.trim() === ''}
					onClick={() => decide('discard')}
				>
					Discard
				</button>
				<button type="button" className="act !font-normal !border-transparent" onClick={onForget}>
					Choose none
				</button>
			</div>
			{s.problem && (
				<p role="alert" className="text-error">
					{s.problem}
				</p>
			)}
		</section>
	);
}
