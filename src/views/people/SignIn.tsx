import { useEffect, useState } from 'react';
import { api } from '../data/client';
import { Wrong } from '../ui/Field';
import { NameField } from './OneLine';
import { SecretField } from './SecretField';
import { useRefused } from './use-refused';

/** By name and passphrase, or by a passkey where the page came securely. */
export function SignIn({ to }: { to: string }) {
	const [name, setName] = useState('');
	const [passphrase, setPassphrase] = useState('');
	const [awake, setAwake] = useState(false);
	const [passkeys, setPasskeys] = useState(false);
	const { wrong, busy, attempt } = useRefused();
	useEffect(() => {
		setAwake(true);
		void api('GET /me', {}).then(
			(me) => setPasskeys(me.secure && 'PublicKeyCredential' in window),
			() => {},
		);
	}, []);
	const go = () => location.assign(to);
	return (
		<form
			className="grid gap-4 max-w-96"
			data-ready={awake}
			onSubmit={async (e) => {
				e.preventDefault();
				if (await attempt(() => api('POST /sign-in', { body: { name, passphrase, label: deviceWords() } }))) go();
			}}
		>
			<h1>Sign in</h1>
			<NameField label="Name" value={name} onChange={setName} />
			<SecretField label="Passphrase" value={passphrase} onChange={setPassphrase} wrong={wrong.passphrase} />
			<Wrong>{wrong[''] ?? wrong.name}</Wrong>
			<div className="flex flex-wrap gap-3">
				<button type="submit" className="act act-main" disabled={busy || name.trim() === '' || passphrase === ''}>
					Sign in
				</button>
				{passkeys && (
					<button
						type="button"
						className="act"
						disabled={busy}
						onClick={async () => {
							const done = await attempt(async () => {
								const { startAuthentication } = await import('@simplewebauthn/browser');
								const { options } = await api('POST /passkeys/sign-in/begin', {});
								const response = await startAuthentication({ optionsJSON: options as never });
								await api('POST /passkeys/sign-in', { body: { response: { ...response }, label: deviceWords() } });
							});
							if (done) go();
						}}
					>
						By passkey
					</button>
				)}
			</div>
			<p className="text-soft text-[0.92rem]">
				New here? Whoever runs this Cordwain shows you a code under People:{' '}
				<a className="underline" href="/join">
					join by a code
				</a>
				.
			</p>
		</form>
	);
}

/** What this device is, in words for the list of sign-ins. */
export function deviceWords(): string {
	const agent = navigator.userAgent;
	const kind = /Android/.test(agent)
		? 'Android'
		: /iPhone|iPad/.test(agent)
			? 'iPhone or iPad'
			: /Windows/.test(agent)
				? 'Windows'
				: /Mac OS/.test(agent)
					? 'Mac'
					: 'computer';
	return `${/Mobile/.test(agent) ? 'phone' : 'browser'}, ${kind}`;
}
