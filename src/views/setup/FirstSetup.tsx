import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { CROPS, rangesFor, STAGES, SYSTEM_PRESETS } from '@/core/crop/presets';
import { ecWithUnit } from '../mix/typed';
import { Field } from '../ui/Field';
import { type FirstAnswers, PENS, type Pen, setUp, unitsOf } from './first-setup';
import { OtherWays } from './OtherWays';
import { ScaleFinder } from './ScaleFinder';

/** From nothing to a first reading: a few questions that a beginner can answer, each with an answer already in it. */
export function FirstSetup({
	zones,
	site,
	alone,
}: {
	zones: string[];
	/** What the place is called already, and its clock; null where nobody said. */
	site: { name: string; timezone: string } | null;
	/** There is no other site: an archive may come back. */
	alone: boolean;
}) {
	const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
	const form = useForm<FirstAnswers>({
		defaultValues: {
			site: site?.name ?? '',
			zone: site?.timezone ?? (zones.includes(own) ? own : 'UTC'),
			kind: SYSTEM_PRESETS[0]!.kind,
			name: 'Tank',
			volume: '',
			crop: 'lettuce',
			stage: 'growing',
			pen: 'combined',
			penName: '',
			decimals: '2',
			scale: '',
		},
	});
	const [finding, setFinding] = useState(false);
	const { register, watch, formState } = form;
	const a = watch();
	const preset = SYSTEM_PRESETS.find((p) => p.kind === a.kind)!;
	const ranges = rangesFor(a.crop, a.stage);
	const units = { ec: unitsOf(a), temp: 'C', volume: 'L' } as const;
	const shows = PENS[a.pen].kind;
	const submit = form.handleSubmit(async (answers) => {
		try {
			location.href = `/bench?station=${encodeURIComponent(await setUp(answers))}`;
		} catch (error) {
			form.setError('root', { message: (error as Error).message });
		}
	});
	const go = (
		<button type="submit" className="act act-main" disabled={formState.isSubmitting}>
			Set up and take a reading
		</button>
	);
	return (
		<form onSubmit={submit} className="max-w-[40rem] grid gap-4" data-first-setup>
			<div>
				<h1>Before the first reading</h1>
				<p className="text-soft mb-2">
					Every question has an answer in it already: leave what you do not know. All of it can be changed later.
				</p>
				{go}
				<OtherWays alone={alone} onProblem={(message) => form.setError('root', { message })} />
			</div>
			<Field label="What do you call the place?" width="w-full">
				<input
					id="s-site"
					className="field"
					placeholder="My site"
					maxLength={200}
					autoComplete="off"
					{...register('site')}
				/>
			</Field>
			<Field label="What do the plants grow in?" width="w-full">
				<select id="s-kind" className="field" {...register('kind')}>
					{SYSTEM_PRESETS.map((p) => (
						<option key={p.kind} value={p.kind}>
							{p.name}
						</option>
					))}
				</select>
			</Field>
			<div className="grid sm:grid-cols-2 gap-4">
				<Field label="Its name" width="w-full">
					<input id="s-name" className="field" maxLength={200} autoComplete="off" {...register('name')} />
				</Field>
				<Field label="How much solution does it hold?" width="w-full">
					<input
						id="s-volume"
						className="field"
						placeholder={preset.volumeL === null ? 'not needed' : `${preset.volumeL} L; or 10 gal`}
						autoComplete="off"
						{...register('volume')}
					/>
				</Field>
				<Field label="What grows in it?" width="w-full">
					<select id="s-crop" className="field" {...register('crop')}>
						{CROPS.map((c) => (
							<option key={c.crop}>{c.crop}</option>
						))}
					</select>
				</Field>
				<Field label="How far is it?" width="w-full">
					<select id="s-stage" className="field" {...register('stage')}>
						{STAGES.map((s) => (
							<option key={s}>{s}</option>
						))}
					</select>
				</Field>
			</div>
			<p className="text-soft text-[0.95rem]" data-first-ranges>
				It will say when pH leaves {ranges.ph.join(' to ')}, or EC {ecWithUnit(ranges.ec[0], units)} to{' '}
				{ecWithUnit(ranges.ec[1], units)}.
			</p>
			<Field label="What does the label on your meter say it measures?" width="w-full">
				<select id="s-pen" className="field" {...register('pen')}>
					{(Object.keys(PENS) as Pen[]).map((p) => (
						<option key={p} value={p}>
							{PENS[p].words}
						</option>
					))}
				</select>
			</Field>
			{shows !== null && (
				<div className="grid sm:grid-cols-2 gap-4">
					<Field label="What do you call it?" width="w-full">
						<input
							id="s-pen-name"
							className="field"
							placeholder={shows === 'drop_kit' ? 'Drop kit' : 'Pen'}
							maxLength={200}
							autoComplete="off"
							{...register('penName')}
						/>
					</Field>
					{(shows === 'combined' || shows === 'ph') && (
						<Field label="How does it show pH?" width="w-full">
							<select id="s-decimals" className="field" {...register('decimals')}>
								<option value="2">6.12</option>
								<option value="1">6.1</option>
							</select>
						</Field>
					)}
				</div>
			)}
			{(a.pen === 'ppm' || a.pen === 'ec') && (
				<div>
					<Field label="Does it say 500, 640 or 700 somewhere, beside ppm or TDS?" width="w-full">
						<select id="s-scale" className="field" {...register('scale')}>
							<option value="">no, or it shows no ppm</option>
							<option value="500">500</option>
							<option value="640">640</option>
							<option value="700">700</option>
						</select>
					</Field>
					<button
						type="button"
						className="underline cursor-pointer min-h-11"
						aria-expanded={finding}
						onClick={() => setFinding(!finding)}
					>
						find it out with a bottle of 1413 µS/cm
					</button>
					{finding && <ScaleFinder onFound={(s) => form.setValue('scale', String(s) as '500')} />}
				</div>
			)}
			<Field label="Whose clock?" width="w-full">
				<select id="s-zone" className="field" {...register('zone')}>
					{zones.map((z) => (
						<option key={z}>{z}</option>
					))}
				</select>
			</Field>
			{formState.errors.root && (
				<p role="alert" className="text-error">
					{formState.errors.root.message}
				</p>
			)}
			<div>{go}</div>
		</form>
	);
}
