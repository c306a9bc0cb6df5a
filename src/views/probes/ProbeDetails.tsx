import { useState } from 'react';
import type { ProbeStory } from '@/contract/probes';
import { type Storage, usualStorage } from '@/core/probe/care';
import { api } from '../data/client';
import { DayField } from '../ui/DayField';
import { STORAGE } from './words';

/** What the probe is and how it is kept. */
export function ProbeDetails({
	story,
	zone,
	onSaved,
	onProblem,
}: {
	story: ProbeStory;
	zone: string;
	onSaved: (words: string) => void;
	onProblem: (text: string) => void;
}) {
	const [serial, setSerial] = useState(story.serial);
	const [since, setSince] = useState(story.in_service ?? '');
	const [storage, setStorage] = useState(story.storage ?? usualStorage(story.kind === 'ec' ? 'ec' : 'ph'));
	const [refilled, setRefilled] = useState(story.storage_refilled ?? '');
	return (
		<details className="note-rule">
			<summary className="cursor-pointer font-bold">The probe itself</summary>
			<form
				className="grid grid-cols-2 gap-2 mt-2"
				onSubmit={async (e) => {
					e.preventDefault();
					try {
						const { warning } = await api('PUT /probes/:instrument/:quantity', {
							params: { instrument: story.instrument, quantity: story.quantity },
							body: { serial, in_service: since || null, storage, storage_refilled: refilled || null },
						});
						onSaved(warning || 'Saved.');
					} catch (error) {
						onProblem((error as Error).message);
					}
				}}
			>
				<label className="block">
					<span className="field-label">Serial</span>
					<input className="field" value={serial} maxLength={200} onChange={(e) => setSerial(e.target.value)} />
				</label>
				<DayField label="In service since" width="w-full" day={since} zone={zone} onDay={setSince} />
				<label className="block col-span-2">
					<span className="field-label">Kept in</span>
					<select className="field" value={storage} onChange={(e) => setStorage(e.target.value as Storage)}>
						{Object.entries(STORAGE).map(([k, w]) => (
							<option key={k} value={k}>
								{w}
							</option>
						))}
					</select>
				</label>
				<DayField label="Solution renewed" width="w-full" day={refilled} zone={zone} onDay={setRefilled} />
				<button type="submit" className="act !font-normal self-end">
					Save
				</button>
			</form>
		</details>
	);
}
