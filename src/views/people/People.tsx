import type { SiteView } from '@/core/reading/site-view';
import { type Held, unheld } from '../data/held';
import { useAsked } from '../data/queries';
import { useAttempt } from '../data/use-attempt';
import { Notice } from '../ui/Notice';
import { Mine } from './Mine';
import { NameOwner } from './NameOwner';
import { PeopleList } from './PeopleList';
import { SignIns } from './SignIns';

/** Who may do what here, and where they are signed in. */
export function People({ site: held }: { site: Held<SiteView> }) {
	const site = unheld(held);
	const me = useAsked('GET /me', {}).data;
	const { said, problem, attempt } = useAttempt();
	return (
		<div>
			<h1>People</h1>
			<p className="mb-3">
				<a className="underline" href="/ledger/changes">
					Who did what
				</a>{' '}
				·{' '}
				<a className="underline" href="/sites">
					Sites
				</a>
			</p>
			<Notice said={said} problem={problem} />
			{me?.open && <NameOwner />}
			{me && !me.open && (
				<div className="grid lg:grid-cols-[1fr_24rem] gap-x-10 gap-y-6">
					<div className="grid gap-6 content-start">
						{me.role === 'grower' && <PeopleList attempt={attempt} />}
						<SignIns me={me} attempt={attempt} />
					</div>
					{me.name !== null && !me.shared && <Mine me={me} zone={site.timezone} attempt={attempt} />}
				</div>
			)}
		</div>
	);
}
