import { useState } from 'react';
import type { Me } from '@/contract/people';
import { api } from '../data/client';
import { forgetPages } from '../data/offline';
import { useAsked } from '../data/queries';
import type { Attempt } from '../data/use-attempt';
import { ago } from '../ui/format';

/** Where people are signed in, and the device that several share. */
export function SignIns({ me, attempt }: { me: Me; attempt: Attempt }) {
	const { data } = useAsked('GET /sign-ins', {});
	const [label, setLabel] = useState('');
	return (
		<section aria-label="Where people are signed in">
			<h2>Signed in</h2>
			<ul>
				{data?.sign_ins.map((s) => (
					<li key={s.id} className="border-t border-line py-2 flex items-center gap-3" data-sign-in={s.id}>
						<span className="grow">
							{s.shared ? <strong>{s.label || 'a shared device'}</strong> : s.person}
							<span className="text-soft">
								{' '}
								· {s.shared ? `shared, put up by ${s.person}` : s.label || 'a browser'} · seen{' '}
								{ago(Date.parse(s.seen_at), Date.now())}
								{s.here && ' · this one'}
							</span>
						</span>
						{!s.here && (
							<button
								type="button"
								className="act !font-normal"
								onClick={() =>
									void attempt('It is signed out.', () => api('DELETE /sign-ins/:id', { params: { id: s.id } }))
								}
							>
								End
							</button>
						)}
					</li>
				))}
			</ul>
			{me.role === 'grower' && !me.shared && (
				<form
					className="mt-4 border-t border-line pt-3 flex flex-wrap items-end gap-3"
					onSubmit={async (e) => {
						e.preventDefault();
						if (await attempt('', () => api('POST /shared-device', { body: { label } }).then(forgetPages)))
							location.assign('/');
					}}
				>
					<label className="block">
						<span className="field-label">This device stays at the bench, and several share it. Call it</span>
						<input
							className="field"
							maxLength={80}
							placeholder="phone at the tank"
							value={label}
							onChange={(e) => setLabel(e.target.value)}
						/>
					</label>
					<button type="submit" className="act" disabled={label.trim() === ''}>
						Share this device
					</button>
					<p className="text-soft text-[0.92rem] w-full">
						You are signed out here. Whoever measures taps their name and types their PIN; with it they measure and log,
						and decide nothing.
					</p>
				</form>
			)}
		</section>
	);
}
