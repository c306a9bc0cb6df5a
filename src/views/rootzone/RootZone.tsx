import { useCallback, useReducer } from 'react';
import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../data/changes';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked, useFollowing } from '../data/queries';
import { Notice } from '../ui/Notice';
import { DrainCharts } from './DrainCharts';
import { DrainPools } from './DrainPools';
import { DrainSays } from './DrainSays';
import { LeafCauses } from './LeafCauses';
import { NextStep } from './NextStep';
import { OtherLooks } from './OtherLooks';
import { RunForm } from './RunForm';
import { Runs } from './Runs';
import { Steps } from './Steps';
import { TankUptake } from './TankUptake';

const SPANS = [
	[28, '4 weeks'],
	[56, '8 weeks'],
	[182, 'half a year'],
] as const;

/** What the roots get: the drain of a system beside its feed, what to do first, and what was given and ran off. */
export function RootZone({
	site: held,
	systems,
	chosen,
	first: heldFirst,
}: {
	site: Held<SiteView>;
	/** Those with a drain, and those with a tank that is drunk from. */
	systems: { code: string; name: string; about: string; crop: string; tank: string | null }[];
	chosen: string;
	first: Held<Drains | null>;
}) {
	const site = unheld(held);
	const came = unheld(heldFirst);
	useFollowing();
	// What is advised is done by one of those who look at it.
	useChanges(useCallback(() => void askAgain(), []));
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		system: chosen,
		days: 56,
		said: '',
		problem: '',
	});
	const system = systems.find((y) => y.code === s.system);
	const asked = useAsked(
		'GET /drains',
		{ query: { system: s.system, days: s.days } },
		system?.tank === null,
		came && s.system === came.system && s.days === 56 ? came : undefined,
	);
	if (system === undefined)
		return (
			<div>
				<h1>Root zone</h1>
				<p>
					No system has a drain or a tank yet: add a station of the kind drain or reservoir in{' '}
					<a className="underline" href="/setup">
						Setup
					</a>
					; a drain is fed by where its feed is read.
				</p>
			</div>
		);
	const d = asked.data;
	const done = (said: string, problem: string) => {
		set({ said, problem });
		void askAgain();
	};
	return (
		<div>
			<div className="flex flex-wrap items-end gap-4 mb-2">
				<h1 className="grow sm:grow-0">Root zone</h1>
				<label className="block w-52">
					<span className="field-label">System</span>
					<select
						id="rz-system"
						className="field"
						value={s.system}
						onChange={(e) => set({ system: e.target.value, said: '', problem: '' })}
					>
						{systems.map((y) => (
							<option key={y.code} value={y.code}>
								{y.name}
							</option>
						))}
					</select>
				</label>
				<fieldset className="flex gap-1" aria-label="Span">
					{SPANS.map(([days, name]) => (
						<button
							key={days}
							type="button"
							aria-pressed={s.days === days}
							className={`act ${s.days === days ? 'act-main' : '!font-normal !border-line'}`}
							onClick={() => set({ days })}
						>
							{name}
						</button>
					))}
				</fieldset>
				<span className="text-soft">{system.about}</span>
			</div>
			<Notice said={s.said} problem={s.problem || (asked.error?.message ?? '')} />
			{system.tank !== null && <TankUptake station={system.tank} crop={system.crop} days={s.days} site={site} />}
			{system.tank === null && d && (
				<div className="grid lg:grid-cols-[1fr_22rem] gap-x-8 gap-y-4">
					<aside className="lg:col-start-2 lg:row-start-1">
						<DrainSays drains={d} site={site} />
						<NextStep drains={d} site={site} onDone={done} />
						<RunForm key={s.system} drains={d} name={system.name} site={site} onLogged={(said) => done(said, '')} />
					</aside>
					<section className="lg:col-start-1 lg:row-start-1 min-w-0">
						<DrainCharts drains={d} site={site} />
						<DrainPools drains={d} site={site} />
						<div className="grid md:grid-cols-2 gap-x-8 mt-4">
							<Steps drains={d} site={site} onDone={done} />
							<Runs drains={d} site={site} onDone={done} />
						</div>
						<OtherLooks key={s.system} drains={d} name={system.name} site={site} onDone={done} />
					</section>
				</div>
			)}
			<LeafCauses key={`leaf ${s.system}`} system={s.system} site={site} />
		</div>
	);
}

interface State {
	system: string;
	days: number;
	said: string;
	problem: string;
}
