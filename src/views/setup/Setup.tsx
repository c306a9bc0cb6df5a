import { useState } from 'react';
import type { Instrument, Site, Station, System } from '@/contract/site';
import { rangesFor, type Stage } from '@/core/crop/presets';
import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import { api } from '../data/client';
import { UNIT_LABELS } from '../ui/format';
import { BenchHabits } from './BenchHabits';
import { codeFrom } from './code';
import { AddByName, Choice, Text } from './fields';
import { InstrumentForm } from './InstrumentForm';
import { ScaleFinder } from './ScaleFinder';
import { StationForm } from './StationForm';
import { SystemForm } from './SystemForm';

interface Props {
	site: Site & Required<Pick<Site, 'units' | 'settings'>>;
	systems: System[];
	stations: Station[];
	instruments: Instrument[];
	zones: string[];
}

/** Everything that was set up, to change or add to. */
export function Setup(props: Props) {
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const [stations, setStations] = useState(props.stations);
	const [systems, setSystems] = useState(props.systems);
	const [instruments, setInstruments] = useState(props.instruments);
	const [site, setSite] = useState(props.site);
	const [finder, setFinder] = useState('');
	const run = async (what: string, work: () => Promise<void>) => {
		setProblem('');
		try {
			await work();
			setSaid(`${what} saved.`);
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	/** Saves a system and, if asked, brings the ranges of its stations to those of its crop and stage. */
	const saveSystem = (y: System, ranges: boolean) =>
		run(y.name ?? y.code, async () => {
			const saved = await api('POST /systems', { body: y });
			setSystems((list) =>
				list.some((x) => x.code === saved.code)
					? list.map((x) => (x.code === saved.code ? saved : x))
					: [...list, saved],
			);
			if (!ranges) return;
			const range = rangesFor(y.crop ?? '', (y.stage ?? 'growing') as Stage);
			for (const s of stations.filter((x) => x.system === y.code && x.kind !== 'drain')) {
				const changed = await api('POST /stations', { body: { ...s, ranges: { ...s.ranges, ...range } } });
				setStations((list) => list.map((x) => (x.code === changed.code ? changed : x)));
			}
		});
	const saveStation = (s: Station) =>
		run(s.name ?? s.code, async () => {
			const saved = await api('POST /stations', { body: s });
			setStations((list) =>
				list.some((x) => x.code === saved.code)
					? list.map((x) => (x.code === saved.code ? saved : x))
					: [...list, saved],
			);
		});
	const saveInstrument = (i: Instrument) =>
		run(i.name ?? i.code, async () => {
			const saved = await api('POST /instruments', { body: i });
			setInstruments((list) =>
				list.some((x) => x.code === saved.code)
					? list.map((x) => (x.code === saved.code ? saved : x))
					: [...list, saved],
			);
		});
	return (
		<div>
			<h1>Setup</h1>
			<div aria-live="polite" className="min-h-7">
				{said && !problem && <p className="text-secondary">{said}</p>}
				{problem && (
					<p role="alert" className="text-error">
						{problem}
					</p>
				)}
			</div>
			<form
				className="note-rule flex flex-wrap items-end gap-3"
				onSubmit={(e) => {
					e.preventDefault();
					run(site.name, async () => {
						await api('PUT /site', { body: site });
					});
				}}
			>
				<h2 className="w-full">Site</h2>
				<Text label="Name" value={site.name} onChange={(name) => setSite({ ...site, name })} />
				<Choice
					label="Time zone"
					value={site.timezone}
					options={props.zones}
					onChange={(timezone) => setSite({ ...site, timezone })}
				/>
				<Choice
					label="EC shown in"
					value={site.units.ec ?? 'mS/cm'}
					options={EC_UNITS}
					labels={UNIT_LABELS}
					onChange={(ec) => setSite({ ...site, units: { ...site.units, ec } })}
				/>
				<Choice
					label="Temperature in"
					value={site.units.temp ?? 'C'}
					options={['C', 'F']}
					labels={UNIT_LABELS}
					onChange={(temp) => setSite({ ...site, units: { ...site.units, temp } })}
				/>
				<Choice
					label="Volumes of samples in"
					value={site.units.volume ?? 'L'}
					options={VOLUME_UNITS}
					labels={UNIT_LABELS}
					onChange={(volume) => setSite({ ...site, units: { ...site.units, volume } })}
				/>
				<BenchHabits settings={site.settings} onChange={(settings) => setSite({ ...site, settings })} />
				<button type="submit" className="act">
					Save site
				</button>
			</form>
			<section className="note-rule">
				<h2>Systems</h2>
				{systems.map((y) => (
					<SystemForm key={y.code} system={y} onSave={saveSystem} />
				))}
				<AddByName
					label="Add a system"
					onAdd={(name) => saveSystem({ code: codeFrom(name), name, kind: 'bucket' } as System, false)}
				/>
			</section>
			<section className="note-rule">
				<h2>Stations, in the order the water runs</h2>
				<p className="text-soft text-[0.9rem] mb-2">
					Ranges are the targets drawn on the strips: pH, and EC in mS/cm. A reading outside is not doubted for that.
				</p>
				{stations.map((s) => (
					<StationForm
						key={`${s.code}${JSON.stringify(s.ranges)}`}
						station={s}
						systems={systems}
						onSave={saveStation}
					/>
				))}
				<AddByName
					label="Add a station"
					onAdd={(name) => saveStation({ code: codeFrom(name), name, kind: 'reservoir' } as Station)}
				/>
			</section>
			<section className="note-rule">
				<h2>Instruments</h2>
				{instruments.map((i) => (
					<div key={i.code} className="border-t border-line py-2">
						<InstrumentForm
							instrument={i}
							onSave={saveInstrument}
							onFind={() => setFinder(finder === i.code ? '' : i.code)}
						/>
						{finder === i.code && (
							<div className="mt-2">
								<ScaleFinder onFound={(ppm_scale) => saveInstrument({ ...i, ppm_scale })} />
							</div>
						)}
					</div>
				))}
				<AddByName
					label="Add an instrument"
					onAdd={(name) => saveInstrument({ code: codeFrom(name), name, kind: 'combined' } as Instrument)}
				/>
			</section>
		</div>
	);
}
