import { useEffect, useState } from 'react';
import { api } from '../data/client';
import { Wrong } from '../ui/Field';
import { JoinToo } from './JoinToo';
import { CodeField, NameField } from './OneLine';
import { SecretField } from './SecretField';
import { useRefused } from './use-refused';

/** Joins by the code that a grower shows, scanned or typed: as who one is here already, or as somebody new. */
export function Join({ me }: { me: string | null }) {
	const [code, setCode] = useState('');
	const [another, setAnother] = useState(false);
	useEffect(() => {
		// Behind the hash it is sent to nobody before it is used.
		const scanned = decodeURIComponent(location.hash.slice(1));
		if (scanned) setCode(scanned);
	}, []);
	if (me === null || another) return <JoinAnew code={code} setCode={setCode} />;
	return (
		<div className="grid gap-4 max-w-96">
			<JoinToo code={code} setCode={setCode} as={me} />
			<button type="button" className="underline cursor-pointer min-h-11 text-left" onClick={() => setAnother(true)}>
				I am not {me}
			</button>
		</div>
	);
}

function JoinAnew({ code, setCode }: { code: string; setCode: (text: string) => void }) {
	const [name, setName] = useState('');
	const [passphrase, setPassphrase] = useState('');
	const [pin, setPin] = useState('');
	const [awake, setAwake] = useState(false);
	const { wrong, busy, attempt } = useRefused();
	useEffect(() => setAwake(true), []);
	return (
		<form
			className="grid gap-4 max-w-96"
			data-ready={awake}
			onSubmit={async (e) => {
				e.preventDefault();
				const body = { code, name, passphrase, ...(pin === '' ? {} : { pin }) };
				if (await attempt(() => api('POST /people/join', { body }))) location.assign('/');
			}}
		>
			<h1>Join</h1>
			<CodeField label="Code" value={code} onChange={setCode} wrong={wrong.code} />
			<NameField
				label="Your name, as it stands beside what you enter"
				value={name}
				onChange={setName}
				wrong={wrong.name}
			/>
			<SecretField
				label="Passphrase"
				value={passphrase}
				onChange={setPassphrase}
				wrong={wrong.passphrase}
				isNew
				hint="At least 12 characters. Four words are easier kept than one riddle."
			/>
			<SecretField
				label="PIN, for a device that several share"
				value={pin}
				onChange={setPin}
				wrong={wrong.pin}
				digits
				hint="4 to 8 digits; leave it empty where there is no such device."
			/>
			<Wrong>{wrong['']}</Wrong>
			<div>
				<button type="submit" className="act act-main" disabled={busy || code.trim() === '' || name.trim() === ''}>
					Join
				</button>
			</div>
		</form>
	);
}
