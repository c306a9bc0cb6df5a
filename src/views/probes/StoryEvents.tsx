import { useState } from 'react';
import type { ProbeStory } from '@/contract/probes';
import type { ProbeEventKind } from '@/core/probe/care';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { day, EVENT } from './words';

/** What happened to a probe, and a form to log more. */
export function StoryEvents({
	story,
	site,
	onLogged,
	onProblem,
}: {
	story: ProbeStory;
	site: SiteView;
	onLogged: () => void;
	onProblem: (text: string) => void;
}) {
	const [kind, setKind] = useState<ProbeEventKind>('cleaned');
	const [before, setBefore] = useState('');
	const [after, setAfter] = useState('');
	return (
		<div className="note-rule">
			<h2>What happened to it</h2>
			<ul className="text-[0.9rem] mb-2">
				{story.events.slice(-4).map((e) => (
					<li key={e.id}>
						{day(e.time, site.timezone)}: {EVENT[e.kind]}
						{e.before !== null ? `, ${e.before} before and ${e.after} after` : ''}
					</li>
				))}
			</ul>
			<form
				className="flex flex-wrap gap-2 items-end"
				onSubmit={async (e) => {
					e.preventDefault();
					const number = (t: string) => (t.trim() === '' ? null : Number(t.replace(',', '.')));
					try {
						await api('POST /probe-events', {
							body: {
								instrument: story.instrument,
								quantity: story.quantity,
								kind,
								before: kind === 'cleaned' ? number(before) : null,
								after: kind === 'cleaned' ? number(after) : null,
							},
						});
						setBefore('');
						setAfter('');
						onLogged();
					} catch (error) {
						onProblem((error as Error).message);
					}
				}}
			>
				<label className="block grow">
					<span className="field-label">Log</span>
					<select className="field" value={kind} onChange={(e) => setKind(e.target.value as ProbeEventKind)}>
						{Object.entries(EVENT).map(([k, w]) => (
							<option key={k} value={k}>
								{w}
							</option>
						))}
					</select>
				</label>
				{kind === 'cleaned' && (
					<>
						<label className="block w-20">
							<span className="field-label">Before</span>
							<input className="field" inputMode="decimal" value={before} onChange={(e) => setBefore(e.target.value)} />
						</label>
						<label className="block w-20">
							<span className="field-label">After</span>
							<input className="field" inputMode="decimal" value={after} onChange={(e) => setAfter(e.target.value)} />
						</label>
					</>
				)}
				<button type="submit" className="act !font-normal">
					Log it
				</button>
			</form>
			{kind === 'cleaned' && (
				<p className="text-soft text-[0.85rem] mt-1">
					The same water read before and after cleaning{story.quantity === 'ec' ? ', in µS/cm,' : ''} tells fouling from
					drift. Both may be left empty.
				</p>
			)}
		</div>
	);
}
