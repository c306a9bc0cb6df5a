import { useEffect, useState } from 'react';
import { api } from '../data/client';
import { forgetPages } from '../data/offline';
import { OneLine } from '../people/OneLine';
import { useRefused } from '../people/use-refused';
import { Wrong } from '../ui/Field';

/** One more site: its name and its clock; the rest is asked there. */
export function NewSite({ zones }: { zones: string[] }) {
	const [name, setName] = useState('');
	const [timezone, setTimezone] = useState('UTC');
	const { wrong, busy, attempt } = useRefused();
	useEffect(() => {
		const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
		if (zones.includes(own)) setTimezone(own);
	}, [zones]);
	return (
		<form
			className="grid gap-3"
			aria-label="One more site"
			onSubmit={async (e) => {
				e.preventDefault();
				await attempt(async () => {
					const { id } = await api('POST /sites', { body: { name, timezone } });
					await forgetPages();
					location.assign(`/setup?site=${id}`);
				});
			}}
		>
			<h2>One more site</h2>
			<OneLine
				label="What do you call the place?"
				maxLength={200}
				autoComplete="off"
				value={name}
				onChange={setName}
				wrong={wrong.name}
			/>
			<label className="block">
				<span className="field-label">Whose clock?</span>
				<select className="field" value={timezone} onChange={(e) => setTimezone(e.target.value)}>
					{zones.map((z) => (
						<option key={z}>{z}</option>
					))}
				</select>
				<Wrong>{wrong.timezone ?? wrong['']}</Wrong>
			</label>
			<div>
				<button type="submit" className="act" disabled={busy || name.trim() === ''}>
					Make it
				</button>
			</div>
		</form>
	);
}
