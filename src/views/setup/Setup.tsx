import { useState } from 'react';
import type { z } from 'zod';
import { CROPS, rangesFor, STAGES, type Stage, SYSTEM_PRESETS } from '@/core/crop/presets';
import { decimal } from '@/core/format/readings-row';
import { STATION_KINDS } from '@/core/reading/model';
import type { instrument, station, system } from '@/server/contract';
import { api } from '../api';
import { codeFrom } from './code';
import { ScaleFinder } from './ScaleFinder';

type Station = z.output<typeof station>;
type Instrument = z.output<typeof instrument>;
type System = z.output<typeof system>;

interface Props {
	site: { name: string; timezone: string; units: { ec?: string; temp?: string } };
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
			const saved = await api<System>('/systems', { json: y });
			setSystems((list) =>
				list.some((x) => x.code === saved.code)
					? list.map((x) => (x.code === saved.code ? saved : x))
					: [...list, saved],
			);
			if (!ranges) return;
			const range = rangesFor(y.crop ?? '', (y.stage ?? 'growing') as Stage);
			for (const s of stations.filter((x) => x.system === y.code && x.kind !== 'drain')) {
				const changed = await api<Station>('/stations', { json: { ...s, ranges: { ...s.ranges, ...range } } });
				setStations((list) => list.map((x) => (x.code === changed.code ? changed : x)));
			}
		});
	const saveStation = (s: Station) =>
		run(s.name ?? s.code, async () => {
			const saved = await api<Station>('/stations', { json: s });
			setStations((list) =>
				list.some((x) => x.code === saved.code)
					? list.map((x) => (x.code === saved.code ? saved : x))
					: [...list, saved],
			);
		});
	const saveInstrument = (i: Instrument) =>
		run(i.name ?? i.code, async () => {
			const saved = await api<Instrument>('/instruments', { json: i });
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
						await api('/site', { method: 'PUT', json: site });
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
					options={['mS/cm', 'uS/cm', 'ppm500', 'ppm700']}
					onChange={(ec) => setSite({ ...site, units: { ...site.units, ec } })}
				/>
				<Choice
					label="Temperature in"
					value={site.units.temp ?? 'C'}
					options={['C', 'F']}
					onChange={(temp) => setSite({ ...site, units: { ...site.units, temp } })}
				/>
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

function Text({
	label,
	value,
	onChange,
	width = 'w-44',
	mode,
}: {
	label: string;
	value: string;
	onChange: (v: string) => void;
	width?: string;
	mode?: 'decimal';
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<input
				className="field"
				value={value}
				inputMode={mode}
				maxLength={200}
				onChange={(e) => onChange(e.target.value)}
			/>
		</label>
	);
}
function Choice({
	label,
	value,
	options,
	onChange,
	width = 'w-44',
}: {
	label: string;
	value: string;
	options: readonly string[];
	onChange: (v: string) => void;
	width?: string;
}) {
	return (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<select className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				{options.map((o) => (
					<option key={o} value={o}>
						{o === '' ? 'none' : o.replaceAll('_', ' ')}
					</option>
				))}
			</select>
		</label>
	);
}

function StationForm({
	station: first,
	systems,
	onSave,
}: {
	station: Station;
	systems: System[];
	onSave: (s: Station) => void;
}) {
	const [s, setS] = useState(first);
	const show = (r: [number, number] | undefined, factor: number) => (r ? `${r[0] / factor} to ${r[1] / factor}` : '');
	const [ph, setPh] = useState(show(s.ranges?.ph, 1));
	const [ec, setEc] = useState(show(s.ranges?.ec, 1000));
	const [volume, setVolume] = useState(s.volume_l ? String(s.volume_l) : '');
	const [problem, setProblem] = useState('');
	const range = (text: string, factor: number): [number, number] | undefined | null => {
		if (text.trim() === '') return undefined;
		const ends = text.split(/\s*(?:to|–|\.\.|;)\s*/).map((t) => decimal(t.trim()));
		if (ends.length !== 2 || ends[0] === undefined || ends[1] === undefined || !(ends[0] < ends[1])) return null;
		return [ends[0] * factor, ends[1] * factor];
	};
	return (
		<form
			className="flex flex-wrap items-end gap-2 py-2 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				const phRange = range(ph, 1);
				const ecRange = range(ec, 1000);
				const litres = volume.trim() === '' ? null : decimal(volume.trim());
				if (phRange === null || ecRange === null) return setProblem('Write a range as 5.5 to 6.5.');
				if (litres === undefined) return setProblem('Write the volume as a number of litres.');
				setProblem('');
				const { ph: _p, ec: _e, ...others } = s.ranges ?? {};
				onSave({
					...s,
					volume_l: litres,
					ranges: { ...others, ...(phRange && { ph: phRange }), ...(ecRange && { ec: ecRange }) },
				});
			}}
		>
			<Text label="Name" width="w-40" value={s.name ?? s.code} onChange={(name) => setS({ ...s, name })} />
			<Choice
				label="Kind"
				width="w-32"
				value={s.kind}
				options={STATION_KINDS}
				onChange={(kind) => setS({ ...s, kind: kind as Station['kind'] })}
			/>
			<Choice
				label="System"
				width="w-32"
				value={s.system ?? ''}
				options={['', ...systems.map((y) => y.code)]}
				onChange={(y) => setS({ ...s, system: y || null })}
			/>
			<Text label="Litres" width="w-20" mode="decimal" value={volume} onChange={setVolume} />
			<Text label="pH range" width="w-28" value={ph} onChange={setPh} />
			<Text label="EC range, mS/cm" width="w-32" value={ec} onChange={setEc} />
			<Text
				label="Place in line"
				width="w-20"
				mode="decimal"
				value={String(s.position ?? '')}
				onChange={(p) => setS({ ...s, position: Number.parseInt(p, 10) || 0 })}
			/>
			<button type="submit" className="act !font-normal">
				Save
			</button>
			<span className="text-soft text-[0.8rem] pb-2">code {s.code}</span>
			{problem && (
				<p role="alert" className="text-error w-full">
					{problem}
				</p>
			)}
		</form>
	);
}

const KINDS = SYSTEM_PRESETS.map((p) => p.kind);

function SystemForm({ system: first, onSave }: { system: System; onSave: (y: System, ranges: boolean) => void }) {
	const [y, setY] = useState(first);
	const [volume, setVolume] = useState(first.volume_l ? String(first.volume_l) : '');
	const litres = volume.trim() === '' ? null : decimal(volume.trim());
	const known = CROPS.some((c) => c.crop === y.crop);
	return (
		<form
			className="flex flex-wrap items-end gap-2 py-2 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				if (litres !== undefined) onSave({ ...y, volume_l: litres }, false);
			}}
		>
			<Text label="Name" width="w-40" value={y.name ?? y.code} onChange={(name) => setY({ ...y, name })} />
			<Choice
				label="Kind"
				width="w-40"
				value={y.kind}
				options={KINDS}
				onChange={(kind) => setY({ ...y, kind: kind as System['kind'] })}
			/>
			<Text label="Litres" width="w-20" mode="decimal" value={volume} onChange={setVolume} />
			<Text label="Medium" width="w-28" value={y.medium ?? ''} onChange={(medium) => setY({ ...y, medium })} />
			<Choice
				label="Crop"
				width="w-36"
				value={y.crop ?? ''}
				options={[...new Set([y.crop ?? '', ...CROPS.map((c) => c.crop)])]}
				onChange={(crop) => setY({ ...y, crop })}
			/>
			<Choice
				label="Stage"
				width="w-36"
				value={y.stage ?? ''}
				options={[...new Set([y.stage ?? '', ...STAGES])]}
				onChange={(stage) => setY({ ...y, stage })}
			/>
			<button type="submit" className="act !font-normal" disabled={litres === undefined}>
				Save
			</button>
			{known && (
				<button
					type="button"
					className="act !font-normal"
					disabled={litres === undefined}
					onClick={() => litres !== undefined && onSave({ ...y, volume_l: litres }, true)}
				>
					Save with the crop’s ranges
				</button>
			)}
		</form>
	);
}

function InstrumentForm({
	instrument: first,
	onSave,
	onFind,
}: {
	instrument: Instrument;
	onSave: (i: Instrument) => void;
	onFind: () => void;
}) {
	const [edited, setEdited] = useState<Partial<Instrument>>({});
	const i = { ...first, ...edited };
	return (
		<form
			className="flex flex-wrap items-end gap-2"
			onSubmit={(e) => {
				e.preventDefault();
				onSave(i);
				setEdited({});
			}}
		>
			<Text label="Name" width="w-40" value={i.name ?? i.code} onChange={(name) => setEdited({ ...edited, name })} />
			<Choice
				label="Kind"
				width="w-36"
				value={i.kind}
				options={['combined', 'ph', 'ec', 'drop_kit', 'sensor_node']}
				onChange={(kind) => setEdited({ ...edited, kind: kind as Instrument['kind'] })}
			/>
			<Choice
				label="ppm scale"
				width="w-28"
				value={String(i.ppm_scale ?? '')}
				options={['', '500', '640', '700']}
				onChange={(v) => setEdited({ ...edited, ppm_scale: v === '' ? null : (Number(v) as 500) })}
			/>
			<button type="button" className="act !font-normal" onClick={onFind}>
				Find the scale
			</button>
			<label className="flex gap-2 items-center min-h-10">
				<input
					type="checkbox"
					checked={i.compensates ?? true}
					onChange={(e) => setEdited({ ...edited, compensates: e.target.checked })}
				/>{' '}
				compensates
			</label>
			<button type="submit" className="act !font-normal">
				Save
			</button>
			<span className="text-soft text-[0.8rem] pb-2">code {i.code}</span>
			<InstrumentDetails i={i} onChange={(change) => setEdited({ ...edited, ...change })} />
		</form>
	);
}

const SCHOOLS = ['learned', 'weekly', 'before_use', 'monthly', 'maker'] as const;

/** What the meter's leaflet says: how finely it shows, how right it claims to be, how it is calibrated. */
function InstrumentDetails({ i, onChange }: { i: Instrument; onChange: (change: Partial<Instrument>) => void }) {
	const quantity = (q: 'ph' | 'ec', key: 'resolution' | 'accuracy' | 'accuracyPct', text: string) => {
		const value = text.trim() === '' ? undefined : decimal(text.trim());
		onChange({ quantities: { ...i.quantities, [q]: { ...i.quantities?.[q], [key]: value } } });
	};
	const field = (label: string, q: 'ph' | 'ec', key: 'resolution' | 'accuracy' | 'accuracyPct') => (
		<label className="block w-28">
			<span className="field-label">{label}</span>
			<input
				className="field"
				inputMode="decimal"
				defaultValue={i.quantities?.[q]?.[key] ?? ''}
				onBlur={(e) => quantity(q, key, e.target.value)}
			/>
		</label>
	);
	return (
		<details className="w-full">
			<summary className="cursor-pointer text-soft text-[0.9rem]">what its leaflet says</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				{i.kind !== 'ec' && field('pH steps of', 'ph', 'resolution')}
				{i.kind !== 'ec' && field('pH right to ±', 'ph', 'accuracy')}
				{i.kind !== 'ph' && field('EC steps, µS/cm', 'ec', 'resolution')}
				{i.kind !== 'ph' && field('EC right to ± %', 'ec', 'accuracyPct')}
				<Text
					label="% per °C"
					width="w-20"
					mode="decimal"
					value={String(i.alpha_pct_per_c ?? 2)}
					onChange={(v) => onChange({ alpha_pct_per_c: decimal(v.trim()) ?? 2 })}
				/>
				<Choice
					label="Calibrate"
					width="w-36"
					value={i.calibrate_by ?? 'learned'}
					options={SCHOOLS}
					onChange={(v) => onChange({ calibrate_by: v as Instrument['calibrate_by'] })}
				/>
				{i.calibrate_by === 'maker' && (
					<Text
						label="every, days"
						width="w-24"
						mode="decimal"
						value={String(i.maker_days ?? '')}
						onChange={(v) => onChange({ maker_days: decimal(v.trim()) ?? null })}
					/>
				)}
				<Choice
					label="Remembers"
					width="w-32"
					value={String(i.remembers_points ?? 2)}
					options={['0', '1', '2', '3']}
					onChange={(v) => onChange({ remembers_points: Number(v) })}
				/>
				<label className="flex gap-2 items-center min-h-10">
					<input
						type="checkbox"
						checked={i.shows_mv ?? false}
						onChange={(e) => onChange({ shows_mv: e.target.checked })}
					/>{' '}
					shows mV
				</label>
				<label className="flex gap-2 items-center min-h-10">
					<input type="checkbox" checked={i.locks ?? false} onChange={(e) => onChange({ locks: e.target.checked })} />{' '}
					locks when stable
				</label>
			</div>
		</details>
	);
}

function AddByName({ label, onAdd }: { label: string; onAdd: (name: string) => void }) {
	const [name, setName] = useState('');
	return (
		<form
			className="flex items-end gap-2 pt-3 border-t border-line"
			onSubmit={(e) => {
				e.preventDefault();
				if (name.trim() === '') return;
				onAdd(name.trim());
				setName('');
			}}
		>
			<Text label={label} value={name} onChange={setName} />
			<button type="submit" className="act" disabled={name.trim() === ''}>
				Add
			</button>
		</form>
	);
}
