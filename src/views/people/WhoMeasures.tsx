import { useState } from 'react';
import { api } from '../data/client';
import { askAgain, useAsked } from '../data/queries';
import { Wrong } from '../ui/Field';
import { SecretField } from './SecretField';
import { useRefused } from './use-refused';

/** On a device that several share: who measures now. A tap and a PIN; after twenty quiet minutes it is nobody again. */
export default function WhoMeasures({ name: first }: { name: string | null }) {
	const [name, setName] = useState(first);
	const [chosen, choose] = useState<{ id: number; name: string } | null>(null);
	const [pin, setPin] = useState('');
	const { wrong, busy, attempt } = useRefused();
	const people = useAsked('GET /shared-device/people', {}, name === null).data?.people ?? [];
	if (name !== null)
		return (
			<p className="flex items-center gap-3 py-1" data-measures={name}>
				<strong>{name}</strong> measures.
				<button
					type="button"
					className="act !font-normal"
					onClick={() =>
						void attempt(() => api('POST /shared-device/leave', {})).then((ok) => {
							if (ok) setName(null);
						})
					}
				>
					Somebody else
				</button>
			</p>
		);
	return (
		<section className="py-1 flex flex-wrap items-end gap-2" aria-label="Who measures">
			<span className="pb-2">Who measures?</span>
			{people.map((p) => (
				<button
					key={p.id}
					type="button"
					className={`act ${chosen?.id === p.id ? 'act-main' : '!font-normal'}`}
					aria-pressed={chosen?.id === p.id}
					onClick={() => choose(p)}
				>
					{p.name}
				</button>
			))}
			{chosen && (
				<form
					className="flex items-end gap-2"
					onSubmit={async (e) => {
						e.preventDefault();
						const ok = await attempt(() => api('POST /shared-device/person', { body: { id: chosen.id, pin } }));
						setPin('');
						if (!ok) return;
						setName(chosen.name);
						choose(null);
						await askAgain();
					}}
				>
					<SecretField label={`PIN of ${chosen.name}`} value={pin} onChange={setPin} digits wrong={wrong.pin} />
					<button type="submit" className="act act-main" disabled={busy || pin.length < 4}>
						I measure
					</button>
				</form>
			)}
			<Wrong>{wrong['']}</Wrong>
		</section>
	);
}
