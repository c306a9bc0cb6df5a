import { useEffect, useState } from 'react';
import type { WatchSettings } from '@/contract/watch';
import { Text } from '../ui/controls';
import { quietFrom, quietText } from './quiet';

/** How alerts are told beside the bell: on this screen, by mail, to an address; and when not. */
export function HowTold({
	settings: s,
	onSave,
}: {
	settings: WatchSettings;
	onSave: (body: WatchSettings) => Promise<boolean>;
}) {
	const [mail, setMail] = useState({
		host: s.mail?.host ?? '',
		port: String(s.mail?.port ?? 587),
		user: s.mail?.user ?? '',
		password: s.mail?.password ?? '',
		from: s.mail?.from ?? '',
		to: s.mail?.to ?? '',
	});
	const [secure, setSecure] = useState(s.mail?.secure ?? false);
	const [webhook, setWebhook] = useState({ url: s.webhook?.url ?? '', secret: s.webhook?.secret ?? '' });
	const [quiet, setQuiet] = useState(quietText(s.quiet ?? null));
	const [wrong, setWrong] = useState('');
	const save = (e: { preventDefault: () => void }) => {
		e.preventDefault();
		const hours = quietFrom(quiet);
		if (hours === undefined) return setWrong('Write it as 22:00–06:30, or leave it empty.');
		setWrong('');
		void onSave({
			quiet: hours,
			mail:
				mail.host.trim() === ''
					? null
					: {
							...mail,
							host: mail.host.trim(),
							port: Number(mail.port) || 0,
							secure,
							from: mail.from.trim(),
							to: mail.to.trim(),
						},
			webhook: webhook.url.trim() === '' ? null : { ...webhook, url: webhook.url.trim() },
		});
	};
	const field = (name: keyof typeof mail, label: string, hint?: string) => (
		<Text
			label={label}
			value={mail[name]}
			onChange={(v) => setMail({ ...mail, [name]: v })}
			width="w-full"
			{...(hint ? { hint } : {})}
		/>
	);
	return (
		<form onSubmit={save} data-how-told>
			<h2>How it is told</h2>
			<OnThisScreen />
			<Text
				label="Quiet hours"
				value={quiet}
				onChange={setQuiet}
				width="w-full"
				hint="As 22:00–06:30: what begins then is told afterwards, if it still goes on."
				wrong={wrong || undefined}
			/>
			<details className="mt-3" open={s.mail !== null && s.mail !== undefined}>
				<summary className="cursor-pointer min-h-8">By mail</summary>
				{field('host', 'Mail server', 'The outgoing server of your provider; “mailbox” is one that stands in here.')}
				{field('port', 'Port')}
				<label className="flex items-center gap-2 min-h-10">
					<input
						type="checkbox"
						className="checkbox checkbox-sm"
						checked={secure}
						onChange={(e) => setSecure(e.target.checked)}
					/>
					TLS from the first byte (port 465)
				</label>
				{field('user', 'User')}
				<label className="block w-full">
					<span className="field-label">Password</span>
					<input
						className="field"
						type="password"
						autoComplete="off"
						value={mail.password}
						onChange={(e) => setMail({ ...mail, password: e.target.value })}
					/>
				</label>
				{field('from', 'From')}
				{field('to', 'To')}
			</details>
			<details className="mt-3" open={s.webhook !== null && s.webhook !== undefined}>
				<summary className="cursor-pointer min-h-8">To an address (webhook)</summary>
				<Text
					label="Address"
					value={webhook.url}
					onChange={(url) => setWebhook({ ...webhook, url })}
					width="w-full"
					hint="Each message is sent there as JSON; tried again when it is not taken."
				/>
				<Text
					label="Secret"
					value={webhook.secret}
					onChange={(secret) => setWebhook({ ...webhook, secret })}
					width="w-full"
					hint="Messages are signed with it."
				/>
			</details>
			<button type="submit" className="act act-main mt-3">
				Save
			</button>
		</form>
	);
}

/** The browser’s own notices while a page is open. */
function OnThisScreen() {
	const [state, setState] = useState('');
	useEffect(() => setState(typeof Notification === 'undefined' ? 'none' : Notification.permission), []);
	if (state === '' || state === 'none') return null;
	if (state === 'granted')
		return <p className="text-soft my-2">This browser tells you while a page of Cordwain is open.</p>;
	if (state === 'denied')
		return <p className="text-soft my-2">This browser was told not to show notices of this page.</p>;
	return (
		<button
			type="button"
			className="act !font-normal my-2"
			onClick={() => void Notification.requestPermission().then(setState)}
		>
			Tell me on this screen
		</button>
	);
}
