import { useState } from 'react';
import { api } from '../data/client';
import { forgetPages } from '../data/offline';
import { useRefused } from '../people/use-refused';
import { Wrong } from '../ui/Field';

/** Joins one more site by the code that its grower shows, as who one is already. */
export function JoinToo() {
	const [code, setCode] = useState('');
	const { wrong, busy, attempt } = useRefused();
	return (
		<form
			className="grid gap-3"
			aria-label="Join one more site"
			onSubmit={async (e) => {
				e.preventDefault();
				await attempt(async () => {
					const { site_id } = await api('POST /me/join', { body: { code } });
					await forgetPages();
					location.assign(`/?site=${site_id}`);
				});
			}}
		>
			<h2>Join by a code</h2>
			<label className="block">
				<span className="field-label">Code that the grower of another site shows</span>
				<input
					className="field uppercase"
					autoComplete="off"
					maxLength={40}
					placeholder="ABCDE-FGHJK"
					value={code}
					onChange={(e) => setCode(e.target.value)}
				/>
				<Wrong>{wrong.code ?? wrong['']}</Wrong>
			</label>
			<div>
				<button type="submit" className="act" disabled={busy || code.trim() === ''}>
					Join
				</button>
			</div>
		</form>
	);
}
