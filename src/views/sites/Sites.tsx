import { useState } from 'react';
import type { Me } from '@/contract/people';
import { forgetPages } from '../data/offline';
import { useAsked } from '../data/queries';
import { JoinToo } from '../people/JoinToo';
import { ROLE_WORDS } from '../people/PeopleList';
import { NewSite } from './NewSite';

/** The sites that one may come to, a press away from one another; and one more. */
export function Sites({ zones }: { zones: string[] }) {
	const { data } = useAsked('GET /sites', {});
	const [code, setCode] = useState('');
	const me: Me | undefined = useAsked('GET /me', {}).data;
	return (
		<div className="grid lg:grid-cols-[1fr_24rem] gap-x-10 gap-y-6">
			<section>
				<h1 className="mb-2">Sites</h1>
				<ul>
					{data?.sites.map((s) => (
						<li key={s.id} className="border-t border-line py-2 flex items-center gap-3" data-site={s.id}>
							<span className="grow">
								<strong>{s.name}</strong>{' '}
								{me && !me.open && <span className="text-soft">· you: {ROLE_WORDS[s.role]}</span>}
							</span>
							{s.here ? (
								<span className="text-soft min-h-11 flex items-center">you are here</span>
							) : (
								<a
									className="act inline-flex items-center"
									href={`/?site=${s.id}`}
									// What is kept of one site for when the network is away is not what the other shows.
									onClick={() => void forgetPages()}
								>
									Go there
								</a>
							)}
						</li>
					))}
				</ul>
				<p className="text-soft mt-2">
					Each has its own line, instruments, book and people. Nothing of one is seen at another.
				</p>
			</section>
			<div className="grid gap-6 content-start">
				{me?.owner && <NewSite zones={zones} />}
				{me && !me.open && !me.shared && me.name !== null && <JoinToo code={code} setCode={setCode} as={me.name} />}
			</div>
		</div>
	);
}
