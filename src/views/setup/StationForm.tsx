import type { Station, System } from '@/contract/site';
import { tankShape } from '@/core/quantity/tank-shape';
import { STATION_KINDS } from '@/core/reading/model';
import { shapeProblem } from '@/words/en/shape';
import { useCheckedForm } from '../ui/checked-form';
import { readRange } from '../ui/range';
import { Choice, Text, Tick } from './fields';
import { type Since, SinceWhen, useSince } from './SinceWhen';
import { StationDosing } from './StationDosing';
import { StationHabits } from './StationHabits';
import { readStation, STATION_FIELDS, stationValues } from './station-values';
import { isPositive } from './system-values';
import type { Refused } from './use-setup';

/** One station: what it is, what feeds it, what it holds, its targets, how it is measured and dosed. */
export function StationForm({
	station: s,
	stations,
	systems,
	zone,
	onSave,
}: {
	station: Station;
	stations: readonly Station[];
	systems: readonly System[];
	zone: string;
	onSave: (s: Station, since: Since) => Promise<Refused>;
}) {
	const first = stationValues(s);
	const form = useCheckedForm({
		address: 'POST /stations',
		first,
		read: (v) => ({ ok: true, body: readStation(s, v) }),
		fields: STATION_FIELDS,
	});
	const v = form.watch();
	const changed = (['kind', 'system', 'volume', 'ph', 'ec'] as const).some((f) => v[f] !== first[f]);
	const { since, asked } = useSince(zone, changed);
	const others = stations.filter((x) => x.code !== s.code && !x.retired && x.kind !== 'standard');
	const range = (factor: number, example: string) => (text: string) =>
		readRange(text, factor) !== null || `Write a range as ${example}.`;
	const shape = (text: string) => {
		const read = tankShape(text);
		return read.ok || shapeProblem(read.problem);
	};
	return (
		<form
			className="grid gap-4"
			data-form={`station ${s.code}`}
			{...form.steady}
			onSubmit={form.handleSubmit(async (values) => {
				if (since !== null) form.say((await onSave(readStation(s, values), since)) ?? []);
			})}
		>
			<h2 className="text-[1.2rem]">
				{s.name ?? s.code} <span className="text-soft text-[0.85rem] font-normal">in files and the API: {s.code}</span>
			</h2>
			<Text form={form} name="name" label="Name" />
			<Choice
				form={form}
				name="kind"
				label="Kind"
				options={STATION_KINDS}
				hint="Decides what is measured here how often, the steps of measuring, and what the checks expect."
			/>
			<Choice
				form={form}
				name="system"
				label="System"
				options={['', ...systems.filter((y) => !y.retired || y.code === s.system).map((y) => y.code)]}
				labels={Object.fromEntries(systems.map((y) => [y.code, y.name ?? y.code]))}
				hint="The plants whose solution it is; gives volume and what moves the water where nothing is said here."
			/>
			<Text
				form={form}
				name="volume"
				label="Litres it holds"
				mode="decimal"
				hint="Doses and what was poured are reckoned by it."
				check={(text) => isPositive(text) || 'Write the volume as a number of litres.'}
			/>
			<Text
				form={form}
				name="shape"
				label="Shape, for a dipstick"
				hint="60 x 40 or round 50, in cm; or a table: 10 38; 20 81. A level then says the litres."
				check={shape}
			/>
			<div className="grid sm:grid-cols-2 gap-4">
				<Text
					form={form}
					name="ph"
					label="pH range"
					width="w-full"
					hint="The quiet zone of the strip; a reading outside is not doubted for that."
					check={range(1, '5.5 to 6.5')}
				/>
				<Text form={form} name="ec" label="EC range, mS/cm" width="w-full" check={range(1000, '1.5 to 2.1')} />
			</div>
			<fieldset>
				<legend className="field-label">Fed by</legend>
				<div className="flex flex-wrap gap-x-5">
					{others.map((x) => (
						<Tick key={x.code} form={form} name="fed_by" value={x.code}>
							{x.name ?? x.code}
						</Tick>
					))}
				</div>
				<p className="text-soft text-[0.85rem]">Joins on the line; a change of a source is looked for downstream.</p>
			</fieldset>
			<StationHabits
				station={{ ...s, kind: v.kind as Station['kind'], rhythm: v.rhythm, protocol: v.protocol }}
				onChange={(change) => {
					if (change.rhythm !== undefined) form.setValue('rhythm', change.rhythm);
					if (change.protocol !== undefined) form.setValue('protocol', change.protocol);
				}}
			/>
			{(v.kind === 'reservoir' || v.kind === 'mix') && (
				<StationDosing code={s.code} form={form} system={systems.find((y) => y.code === v.system) ?? null} />
			)}
			{changed && <SinceWhen {...asked} />}
			<div>
				<button type="submit" className="act act-main" disabled={form.formState.isSubmitting}>
					Save
				</button>
			</div>
		</form>
	);
}
