import { useCallback, useState } from 'react';
import type { PlanShown } from '@/contract/plans';
import { stagesFor } from '@/core/crop/plan';
import type { SiteView } from '@/core/reading/site-view';
import { changesWords, inDaysWords, PRESET_WORDS } from '@/words/en/season';
import { useChanges } from '../data/changes';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked, useFollowing } from '../data/queries';
import { Notice } from '../ui/Notice';
import { SeasonBar } from './SeasonBar';
import { SeasonForm } from './SeasonForm';
import { dayShown, ecRange, phRange } from './season-values';
import { ecUnit } from './typed';

export interface SeasonSystem {
	code: string;
	name: string;
	crop: string;
}
type Stages = PlanShown['stages'];

/** The stages of a system over its season: which is on, what the next one changes, and a tap that begins it. */
export function Season({
	site: held,
	systems,
	chosen,
}: {
	site: Held<SiteView>;
	systems: SeasonSystem[];
	chosen: string | null;
}) {
	const site = unheld(held);
	useFollowing();
	useChanges(useCallback(() => void askAgain(), []));
	const [code, setCode] = useState((systems.find((y) => y.code === chosen) ?? systems[0])?.code ?? '');
	const [said, setSaid] = useState<{ said: string; problem: string; undo: (() => void) | null }>({
		said: '',
		problem: '',
		undo: null,
	});
	const { data, error } = useAsked('GET /plans', {});
	const system = systems.find((y) => y.code === code);
	if (!system)
		return (
			<p>
				A plan is one of a system: add one in{' '}
				<a className="underline" href="/setup">
					Setup
				</a>
				.
			</p>
		);
	const plan = data?.plans.find((p) => p.system === code);
	const act = async (words: string, work: () => Promise<unknown>, undo: (() => void) | null = null) => {
		try {
			await work();
			setSaid({ said: words, problem: '', undo });
		} catch (problem) {
			setSaid({ said: '', problem: (problem as Error).message, undo: null });
		}
		await askAgain();
	};
	const save = async (body: { system: string; version: number; stages: Stages }) => {
		await api('POST /plans', { body });
		setSaid({ said: `The plan of ${system.name} is kept.`, problem: '', undo: null });
		await askAgain();
	};
	const begin = (p: PlanShown, index: number) =>
		act(
			`${p.stages[index]!.name} has begun: its targets are those of the feed now, and the next batch takes them.`,
			() => api('POST /plans/:system/stage', { params: { system: code }, body: { index, version: p.version } }),
			// As it was, on the version that this has made.
			() =>
				void act('Taken back.', () =>
					api('POST /plans', { body: { system: code, version: p.version + 1, stages: p.stages } }),
				),
		);
	return (
		<div data-season={plan ? plan.version : 'none'}>
			<label className="block w-52 mb-3">
				<span className="field-label">System</span>
				<select id="season-system" className="field" value={code} onChange={(e) => setCode(e.target.value)}>
					{systems.map((y) => (
						<option key={y.code} value={y.code}>
							{y.name}
						</option>
					))}
				</select>
			</label>
			<Notice said={said.said} problem={said.problem || (error?.message ?? '')}>
				{said.undo && (
					<button type="button" className="underline cursor-pointer min-h-11" onClick={said.undo}>
						undo
					</button>
				)}
			</Notice>
			{plan && (
				<>
					<SeasonBar plan={plan} site={site} />
					<Standing plan={plan} site={site} onBegin={(i) => begin(plan, i)} />
				</>
			)}
			{data && (
				<SeasonForm
					key={code}
					plan={plan ?? { system: code, version: 0, stages: preset(system.crop) }}
					site={site}
					onSave={save}
				/>
			)}
			{plan ? (
				<button
					type="button"
					className="underline cursor-pointer min-h-11 text-soft"
					onClick={() =>
						act(
							'The plan is put away; targets stay as they are.',
							() => api('POST /plans/:system/end', { params: { system: code }, body: { version: plan.version } }),
							() =>
								void act('It is back.', () =>
									api('POST /plans', { body: { system: code, version: 0, stages: plan.stages } }),
								),
						)
					}
				>
					Put the plan away
				</button>
			) : (
				<p className="text-soft text-[0.9rem]">
					No plan yet: these are stages to start from{system.crop && `, for ${system.crop}`}. {PRESET_WORDS}
				</p>
			)}
		</div>
	);
}

const preset = (crop: string): Stages =>
	stagesFor(crop).map(({ ecUsCm, ph, ...s }) => ({ ...s, ec_us_cm: [...ecUsCm], ph: [...ph] }));

/** Which stage is on, and what the next one changes. */
function Standing({ plan: p, site, onBegin }: { plan: PlanShown; site: SiteView; onBegin: (index: number) => void }) {
	const ranges = (i: number) => {
		const s = p.stages[i]!;
		return { ec: ecRange(s.ec_us_cm, site.units), ph: phRange(s.ph) };
	};
	const now = p.current === null ? null : ranges(p.current);
	return (
		<div className="my-3" data-standing={p.current ?? 'none'}>
			<p className="text-[1.1rem]">
				{p.current === null ? (
					'Nothing has begun yet.'
				) : (
					<>
						<strong>{p.stages[p.current]!.name}</strong>, since {dayShown(p.stages[p.current]!.begun!, site)}: EC{' '}
						{now!.ec} {ecUnit(site.units)}, pH {now!.ph}.
					</>
				)}
			</p>
			{p.next && (
				<p data-next-stage={p.next.index}>
					Next, planned {inDaysWords(p.next.in_days)} ({dayShown(p.next.on, site)}):{' '}
					<strong>{p.stages[p.next.index]!.name}</strong>. {changesWords(now, ranges(p.next.index))}.{' '}
					<button type="button" className="act ml-2" onClick={() => onBegin(p.next!.index)}>
						Begin it today
					</button>
				</p>
			)}
		</div>
	);
}
