import { type ReactNode, useEffect, useRef } from 'react';
import { Notice } from '../ui/Notice';
import { Overtaken } from '../ui/Overtaken';
import { InstrumentForm } from './InstrumentForm';
import { NodePanel } from './NodePanel';
import { SetupList } from './SetupList';
import { SiteForm } from './SiteForm';
import { StationForm } from './StationForm';
import { SystemForm } from './SystemForm';
import { type SetupState, type SetupTools, useSetup } from './use-setup';

/** Everything that was set up, to change, to add to, to put in order and to take out of use. */
export function Setup({
	zones,
	...first
}: Pick<SetupState, 'site' | 'systems' | 'stations' | 'instruments'> & { zones: string[] }) {
	const tools = useSetup(first);
	const { s } = tools;
	const form = useRef<HTMLElement>(null);
	const seen = useRef(s.chosen);
	// Where list and form stand above one another, or the list is longer than the screen, what was chosen is brought into view.
	useEffect(() => {
		if (seen.current === s.chosen) return;
		seen.current = s.chosen;
		const above = (form.current?.getBoundingClientRect().top ?? 0) < 0;
		if (above || matchMedia('(max-width: 1023px)').matches) form.current?.scrollIntoView({ block: 'start' });
	}, [s.chosen]);
	return (
		<div className="grid lg:grid-cols-[20rem_1fr] gap-x-10 gap-y-4">
			<section>
				<h1 id="setup" className="mb-2">
					Setup
				</h1>
				<SetupList tools={tools} />
			</section>
			<section ref={form} className="max-w-[46rem] max-lg:border-t-2 max-lg:border-base-content max-lg:pt-3">
				<a className="lg:hidden underline min-h-11 flex items-center" href="#setup">
					Back to the list
				</a>
				<Notice said={s.said} problem={s.problem} />
				<Form tools={tools} zones={zones} />
			</section>
		</div>
	);
}

/** The form of what was chosen; made anew when something else of it is known. */
function Form({ tools, zones }: { tools: SetupTools; zones: string[] }): ReactNode {
	const { s, retire } = tools;
	const { chosen } = s;
	if (chosen.kind === 'site') return <SiteForm site={s.site} zones={zones} onSave={tools.saveSite} />;
	if (chosen.kind === 'node') return <NodePanel key={chosen.code} code={chosen.code} tools={tools} />;
	const { kind, code } = chosen;
	const one = s[`${kind}s`].find((x) => x.code === code);
	if (!one) return null;
	const key = JSON.stringify(one);
	const zone = s.site.timezone;
	if (one.retired)
		return (
			<div data-retired-thing={code}>
				<h2 className="text-[1.2rem]">{one.name ?? code}</h2>
				<p className="my-2">It is retired: lists and rounds forget it, what was read stays where it is.</p>
				<button type="button" className="act act-main" onClick={() => retire(kind, code, false)}>
					Bring it back
				</button>
			</div>
		);
	return (
		<>
			{kind === 'station' && (
				<StationForm
					key={key}
					station={s.stations.find((x) => x.code === code)!}
					stations={s.stations}
					systems={s.systems}
					zone={zone}
					onSave={tools.saveStation}
				/>
			)}
			{kind === 'system' && (
				<SystemForm key={key} system={s.systems.find((x) => x.code === code)!} zone={zone} onSave={tools.saveSystem} />
			)}
			{kind === 'instrument' && (
				<InstrumentForm
					key={key}
					instrument={s.instruments.find((x) => x.code === code)!}
					zone={zone}
					onSave={tools.saveInstrument}
				/>
			)}
			{s.overtaken && <Overtaken onTake={() => void tools.asItIs()} />}
			<p className="border-t border-line mt-4 pt-3 flex flex-wrap gap-x-4 items-center">
				<button type="button" className="act !font-normal" data-retire onClick={() => retire(kind, code, true)}>
					Retire it
				</button>
				<span className="text-soft text-[0.85rem]">Lists forget it, its history stays; it can be brought back.</span>
			</p>
		</>
	);
}
