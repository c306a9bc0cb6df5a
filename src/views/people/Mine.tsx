import { useState } from 'react';
import type { Me } from '@/contract/people';
import { api } from '../data/client';
import { forgetPages } from '../data/offline';
import { useAsked } from '../data/queries';
import type { Attempt } from '../data/use-attempt';
import { dateTime } from '../ui/format';
import { SecretField } from './SecretField';
import { deviceWords } from './SignIn';
import { useRefused } from './use-refused';

/** What one can change of oneself: passphrase, PIN, passkeys, and the end of this sign-in. */
export function Mine({ me, zone, attempt }: { me: Me; zone: string; attempt: Attempt }) {
	const { data } = useAsked('GET /passkeys', {}, me.name !== null && !me.shared);
	return (
		<section aria-label="You" className="grid gap-4 content-start">
			<h2>
				{me.name} <span className="text-soft font-normal">· {me.role}</span>
			</h2>
			<div className="flex flex-wrap gap-3">
				<button
					type="button"
					className="act"
					onClick={() =>
						void attempt('', () => api('POST /sign-out', {}).then(forgetPages)).then(
							(ok) => ok && location.assign('/sign-in'),
						)
					}
				>
					Sign out
				</button>
				{me.secure && (
					<button
						type="button"
						className="act !font-normal"
						onClick={() =>
							void attempt('The passkey is kept.', async () => {
								const { startRegistration } = await import('@simplewebauthn/browser');
								const { options } = await api('POST /passkeys/begin', {});
								const response = await startRegistration({ optionsJSON: options as never });
								await api('POST /passkeys', { body: { response: { ...response }, label: deviceWords() } });
							})
						}
					>
						Make a passkey on this device
					</button>
				)}
			</div>
			{(data?.passkeys ?? []).map((k) => (
				<p key={k.id} className="flex items-center gap-3">
					<span className="grow">
						Passkey, {k.label || 'a device'}{' '}
						<span className="text-soft">since {dateTime(Date.parse(k.made_at), zone)}</span>
					</span>
					<button
						type="button"
						className="act !font-normal"
						onClick={() =>
							void attempt('It is forgotten.', () => api('DELETE /passkeys/:id', { params: { id: k.id } }))
						}
					>
						Forget
					</button>
				</p>
			))}
			<details>
				<summary className="cursor-pointer text-soft">another passphrase or PIN</summary>
				<Secrets attempt={attempt} />
			</details>
		</section>
	);
}

function Secrets({ attempt: told }: { attempt: Attempt }) {
	const [soFar, setSoFar] = useState('');
	const [passphrase, setPassphrase] = useState('');
	const [pin, setPin] = useState('');
	const { wrong, busy, attempt } = useRefused();
	return (
		<form
			className="grid gap-3 pt-2 max-w-96"
			onSubmit={async (e) => {
				e.preventDefault();
				const body = { so_far: soFar, ...(passphrase === '' ? {} : { passphrase }), ...(pin === '' ? {} : { pin }) };
				if (!(await attempt(() => api('PUT /me', { body })))) return;
				setSoFar('');
				setPassphrase('');
				setPin('');
				await told('Changed. Other sign-ins with a passphrase that was have ended.', async () => {});
			}}
		>
			<SecretField label="Passphrase so far" value={soFar} onChange={setSoFar} wrong={wrong.so_far ?? wrong['']} />
			<SecretField
				label="New passphrase"
				value={passphrase}
				onChange={setPassphrase}
				wrong={wrong.passphrase}
				isNew
				hint="Empty: it stays."
			/>
			<SecretField label="New PIN" value={pin} onChange={setPin} wrong={wrong.pin} digits hint="Empty: it stays." />
			<div>
				<button type="submit" className="act" disabled={busy || soFar === '' || (passphrase === '' && pin === '')}>
					Change
				</button>
			</div>
		</form>
	);
}
