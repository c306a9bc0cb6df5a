import { useState } from 'react';
import type { PersonShown } from '@/contract/people';
import { ROLES, type Role } from '@/core/roles/roles';
import { api } from '../data/client';
import { useAsked } from '../data/queries';
import type { Attempt } from '../data/use-attempt';
import { ago } from '../ui/format';

export const ROLE_WORDS: Record<Role, string> = {
	visitor: 'looks',
	helper: 'measures, logs and doses',
	grower: 'does everything',
};

/** Everybody with a role here, and the code by which another joins. */
export function PeopleList({ attempt }: { attempt: Attempt }) {
	const { data } = useAsked('GET /people', {});
	const change = (p: PersonShown, body: { role?: Role; ended?: boolean }, words: string) =>
		attempt(words, () => api('PUT /people/:id', { params: { id: p.id }, body }));
	return (
		<section aria-label="Everybody">
			<h2>Everybody</h2>
			<ul className="mb-4">
				{data?.people.map((p) => (
					<li
						key={p.id}
						className="border-t border-line py-2 flex flex-wrap items-center gap-x-4 gap-y-1"
						data-person={p.name}
					>
						<span className="grow">
							<strong>{p.name}</strong>{' '}
							<span className="text-soft">
								{p.ended ? 'ended' : p.owner ? 'does everything, at every site' : ROLE_WORDS[p.role]}
								{p.has_pin && ' · has a PIN'}
								{p.passkeys > 0 && ` · ${p.passkeys} ${p.passkeys === 1 ? 'passkey' : 'passkeys'}`}
								{p.seen_at !== null && ` · seen ${ago(Date.parse(p.seen_at), Date.now())}`}
							</span>
						</span>
						{!p.ended && !p.owner && (
							<label className="flex items-center gap-2">
								<span className="sr-only">Role of {p.name}</span>
								<select
									className="field !w-36"
									value={p.role}
									onChange={(e) =>
										void change(p, { role: e.target.value as Role }, `${p.name} is a ${e.target.value} now.`)
									}
								>
									{ROLES.map((r) => (
										<option key={r}>{r}</option>
									))}
								</select>
							</label>
						)}
						{!p.owner && (
							<button
								type="button"
								className="act !font-normal"
								onClick={() =>
									void change(
										p,
										{ ended: !p.ended },
										p.ended ? `${p.name} can sign in again.` : `${p.name} does not come here any more.`,
									)
								}
							>
								{p.ended ? 'Let in again' : 'End'}
							</button>
						)}
					</li>
				))}
			</ul>
			<JoinCode attempt={attempt} />
		</section>
	);
}

function JoinCode({ attempt }: { attempt: Attempt }) {
	const [role, setRole] = useState<Role>('helper');
	const [made, setMade] = useState<{ code: string; address: string; qr: string } | null>(null);
	return (
		<section aria-label="Let somebody join" className="border-t border-line pt-3">
			<h2>Let somebody join</h2>
			<div className="flex flex-wrap items-end gap-3">
				<label className="block">
					<span className="field-label">as</span>
					<select
						aria-label="Join as"
						className="field !w-36"
						value={role}
						onChange={(e) => setRole(e.target.value as Role)}
					>
						{ROLES.map((r) => (
							<option key={r}>{r}</option>
						))}
					</select>
				</label>
				<span className="text-soft pb-2">{ROLE_WORDS[role]}</span>
				<button
					type="button"
					className="act"
					onClick={() => void attempt('', async () => setMade(await api('POST /people/codes', { body: { role } })))}
				>
					Show a code
				</button>
			</div>
			{made && (
				<div className="mt-3 flex flex-wrap gap-4 items-start" data-join-code>
					<img
						alt="The address and the code, to be scanned"
						className="w-44 h-44 bg-white"
						src={`data:image/svg+xml;utf8,${encodeURIComponent(made.qr)}`}
					/>
					<div>
						<p className="text-[1.6rem] font-bold tracking-wider" data-code>
							{made.code}
						</p>
						<p>
							at <span className="break-all">{made.address.replace(/#.*/, '')}</span>
						</p>
						{/\/\/(localhost|127\.)/.test(made.address) && (
							<p>
								Only this machine is served so far. Start it with <code>npm start -- --lan</code>, and phones of the
								house find it.
							</p>
						)}
						<p className="text-soft">For one person, once, within half an hour. It is shown this once.</p>
					</div>
				</div>
			)}
		</section>
	);
}
