import { useState } from 'react';
import { CROPS, rangesFor, STAGES, type Stage, SYSTEM_PRESETS } from '@/core/crop/presets';
import { type DisplayUnits, EC_UNITS } from '@/core/reading/site-view';
import { api } from '../data/client';
import { unitLabel } from '../ui/format';
import { codeFrom } from './code';
import { ScaleFinder } from './ScaleFinder';

const STATION_NAME = { source: 'Water', reservoir: '', mix: 'feed', drain: 'drain' } as const;

/** From nothing to a first reading: one short page, everything with a sensible answer already in it. */
export function FirstSetup({ zones }: { zones: string[] }) {
	const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
	const [site, setSite] = useState('');
	const [zone, setZone] = useState(zones.includes(own) ? own : 'UTC');
	const [ec, setEc] = useState<DisplayUnits['ec']>('mS/cm');
	const [kind, setKind] = useState(SYSTEM_PRESETS[0]!.kind);
	const preset = SYSTEM_PRESETS.find((p) => p.kind === kind)!;
	const [systemName, setSystemName] = useState('Tank');
	const [volume, setVolume] = useState('');
	const [medium, setMedium] = useState('');
	const [crop, setCrop] = useState('lettuce');
	const [stage, setStage] = useState<Stage>('growing');
	const [pen, setPen] = useState('Pen');
	const [scale, setScale] = useState<'' | '500' | '640' | '700'>('');
	const [finding, setFinding] = useState(false);
	const [busy, setBusy] = useState(false);
	const [problem, setProblem] = useState('');

	async function submit(e: React.FormEvent) {
		e.preventDefault();
		setBusy(true);
		setProblem('');
		try {
			const litres = volume.trim() === '' ? preset.volumeL : Number(volume.replace(',', '.'));
			if (litres !== null && !(litres > 0 && litres < 1e9))
				throw new Error('The volume is a number of litres, as 40 or 2400.');
			await api('PUT /site', { body: { name: site.trim() || 'My site', timezone: zone, units: { ec } } });
			const name = systemName.trim() || 'Tank';
			const system = codeFrom(name);
			await api('POST /systems', {
				body: { code: system, name, kind, volume_l: litres, medium: medium.trim() || preset.medium, crop, stage },
			});
			const ranges = rangesFor(crop, stage);
			let before: string[] = [];
			for (const part of preset.stations) {
				const stationName =
					part === 'source' ? STATION_NAME.source : part === 'reservoir' ? name : `${name} ${STATION_NAME[part]}`;
				const code = codeFrom(stationName);
				await api('POST /stations', {
					body: {
						code,
						name: stationName,
						kind: part,
						system: part === 'source' ? null : system,
						fed_by: before,
						volume_l: part === 'reservoir' ? litres : null,
						ranges:
							part === 'source'
								? {}
								: part === 'drain'
									? { ph: ranges.ph, ec: [ranges.ec[0], ranges.ec[1] + 500] }
									: ranges,
					},
				});
				before = [code];
			}
			await api('POST /instruments', {
				body: {
					code: codeFrom(pen.trim() || 'Pen'),
					name: pen.trim() || 'Pen',
					kind: 'combined',
					quantities: { ph: { resolution: 0.01, accuracy: 0.1 }, ec: { resolution: 10, accuracyPct: 2 } },
					ppm_scale: scale === '' ? null : (Number(scale) as 500 | 640 | 700),
				},
			});
			const bench = preset.stations.includes('reservoir') ? codeFrom(name) : codeFrom(`${name} feed`);
			location.href = `/bench?station=${encodeURIComponent(bench)}`;
		} catch (error) {
			setProblem((error as Error).message);
			setBusy(false);
		}
	}
	const text = (id: string, label: string, value: string, set: (v: string) => void, placeholder = '') => (
		<div>
			<label className="field-label" htmlFor={id}>
				{label}
			</label>
			<input
				id={id}
				className="field"
				value={value}
				placeholder={placeholder}
				onChange={(e) => set(e.target.value)}
				maxLength={200}
				autoComplete="off"
			/>
		</div>
	);
	return (
		<form onSubmit={submit} className="max-w-[46rem]">
			<h1>Set up in one page</h1>
			<p className="text-soft mb-4">
				Leave anything as it is; all of it can be changed later. The first reading comes right after.
			</p>
			<fieldset className="note-rule grid sm:grid-cols-3 gap-3">
				<legend className="font-bold pr-2">Your place</legend>
				{text('s-site', 'Name', site, setSite, 'My site')}
				<div>
					<label className="field-label" htmlFor="s-zone">
						Time zone
					</label>
					<select id="s-zone" className="field" value={zone} onChange={(e) => setZone(e.target.value)}>
						{zones.map((z) => (
							<option key={z}>{z}</option>
						))}
					</select>
				</div>
				<div>
					<label className="field-label" htmlFor="s-ec">
						EC shown in
					</label>
					<select id="s-ec" className="field" value={ec} onChange={(e) => setEc(e.target.value as DisplayUnits['ec'])}>
						{EC_UNITS.map((u) => (
							<option key={u} value={u}>
								{unitLabel(u)}
							</option>
						))}
					</select>
				</div>
			</fieldset>
			<fieldset className="note-rule grid sm:grid-cols-3 gap-3">
				<legend className="font-bold pr-2">Your first system</legend>
				<div>
					<label className="field-label" htmlFor="s-kind">
						Kind
					</label>
					<select id="s-kind" className="field" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
						{SYSTEM_PRESETS.map((p) => (
							<option key={p.kind} value={p.kind}>
								{p.name}
							</option>
						))}
					</select>
				</div>
				{text('s-name', 'Name', systemName, setSystemName)}
				{text(
					's-volume',
					'Litres of solution',
					volume,
					setVolume,
					preset.volumeL === null ? 'not needed' : String(preset.volumeL),
				)}
				<div>
					<label className="field-label" htmlFor="s-crop">
						Crop
					</label>
					<select id="s-crop" className="field" value={crop} onChange={(e) => setCrop(e.target.value)}>
						{CROPS.map((c) => (
							<option key={c.crop}>{c.crop}</option>
						))}
					</select>
				</div>
				<div>
					<label className="field-label" htmlFor="s-stage">
						Stage
					</label>
					<select id="s-stage" className="field" value={stage} onChange={(e) => setStage(e.target.value as Stage)}>
						{STAGES.map((s) => (
							<option key={s}>{s}</option>
						))}
					</select>
				</div>
				{text('s-medium', 'Medium', medium, setMedium, preset.medium)}
				<p className="sm:col-span-3 text-soft text-[0.9rem]">
					Range to start with: pH {rangesFor(crop, stage).ph.join(' to ')}, EC{' '}
					{rangesFor(crop, stage)
						.ec.map((v) => (v / 1000).toFixed(1))
						.join(' to ')}{' '}
					mS/cm.
				</p>
			</fieldset>
			<fieldset className="note-rule grid sm:grid-cols-3 gap-3 items-end">
				<legend className="font-bold pr-2">Your meter</legend>
				{text('s-pen', 'What you call it', pen, setPen)}
				<div>
					<label className="field-label" htmlFor="s-scale">
						ppm scale
					</label>
					<select
						id="s-scale"
						className="field"
						value={scale}
						onChange={(e) => setScale(e.target.value as typeof scale)}
					>
						<option value="">shows no ppm, or not known</option>
						<option value="500">500</option>
						<option value="640">640</option>
						<option value="700">700</option>
					</select>
				</div>
				<button type="button" className="act !font-normal" aria-expanded={finding} onClick={() => setFinding(!finding)}>
					Find the scale
				</button>
				{finding && (
					<div className="sm:col-span-3">
						<ScaleFinder onFound={(s) => setScale(String(s) as '500')} />
					</div>
				)}
			</fieldset>
			{problem && (
				<p role="alert" className="text-error mb-2">
					{problem}
				</p>
			)}
			<button type="submit" className="act act-main" disabled={busy}>
				Set up and take a reading
			</button>
		</form>
	);
}
