import { useState } from 'react';
import { api } from '../data/client';
import { Wrong } from '../ui/Field';
import { NameField } from './OneLine';
import { SecretField } from './SecretField';
import { useRefused } from './use-refused';

/** Nobody has been named yet: whoever sits here can name themselves, and from then on everybody signs in. */
export function NameOwner() {
	const [name, setName] = useState('');
	const [passphrase, setPassphrase] = useState('');
	const { wrong, busy, attempt } = useRefused();
	return (
		<form
			className="grid gap-4 max-w-96"
			aria-label="Name yourself"
			onSubmit={async (e) => {
				e.preventDefault();
				if (await attempt(() => api('POST /people/owner', { body: { name, passphrase } }))) location.reload();
			}}
		>
			<p>
				Cordwain answers this machine alone, and asks nobody who they are. Name yourself, and helpers can join from
				their phones; from then on everybody signs in, here too.
			</p>
			<NameField label="Your name" value={name} onChange={setName} wrong={wrong.name} />
			<SecretField
				label="Passphrase"
				value={passphrase}
				onChange={setPassphrase}
				wrong={wrong.passphrase}
				isNew
				hint="At least 12 characters. Write it down and keep it where you keep keys: nobody can tell it to you."
			/>
			<Wrong>{wrong['']}</Wrong>
			<div>
				<button type="submit" className="act act-main" disabled={busy || name.trim() === '' || passphrase === ''}>
					Be the grower here
				</button>
			</div>
		</form>
	);
}
