import { useState } from 'react';
import type { Instrument } from '@/contract/site';
import { MEASURES } from '@/core/reading/protocol';
import { useCheckedForm } from '../ui/checked-form';
import { Choice, Text, Tick } from './fields';
import { InstrumentLeaflet } from './InstrumentLeaflet';
import { INSTRUMENT_FIELDS, instrumentValues, readInstrument } from './instrument-values';
import { ScaleFinder } from './ScaleFinder';
import { type Since, SinceWhen, useSince } from './SinceWhen';
import type { Refused } from './use-setup';

const KIND_WORDS: Record<Instrument['kind'], string> = {
	combined: 'pH and EC',
	ph: 'pH',
	ec: 'EC',
	drop_kit: 'drop kit',
	ion: 'ion pen (nitrate, potassium, calcium)',
	oxygen: 'oxygen meter',
	orp: 'ORP pen',
	substrate: 'substrate probe',
	air: 'air temperature and humidity',
	sensor_node: 'sensor node',
};
const KINDS = Object.keys(KIND_WORDS) as Instrument['kind'][];

/** What readings are understood and judged by. */
const READ_BY = [
	'ppm_scale',
	'compensates',
	'alpha',
	'phSteps',
	'phRight',
	'ecSteps',
	'ecRight',
	'calibrate_by',
	'maker_days',
] as const;

/** One instrument: its scale, its compensation, and what its leaflet says. */
export function InstrumentForm({
	instrument: i,
	zone,
	onSave,
}: {
	instrument: Instrument;
	zone: string;
	onSave: (i: Instrument, since: Since) => Promise<Refused>;
}) {
	const first = instrumentValues(i);
	const form = useCheckedForm({
		address: 'POST /instruments',
		first,
		read: (v) => ({ ok: true, body: readInstrument(i, v) }),
		fields: INSTRUMENT_FIELDS,
	});
	const [finding, setFinding] = useState(false);
	const v = form.watch();
	const changed = READ_BY.some((f) => v[f] !== first[f] && first[f] !== '');
	const { since, asked } = useSince(zone, changed);
	const conducts = MEASURES[v.kind as Instrument['kind']].includes('ec');
	const save = (holds: Since | null) =>
		form.handleSubmit(async (values) => {
			if (holds !== null) form.say((await onSave(readInstrument(i, values), holds)) ?? []);
		});
	return (
		<form className="grid gap-4" data-form={`instrument ${i.code}`} {...form.steady} onSubmit={save(since)}>
			<h2 className="text-[1.2rem]">
				{i.name ?? i.code} <span className="text-soft text-[0.85rem] font-normal">in files and the API: {i.code}</span>
			</h2>
			<Text form={form} name="name" label="Name" />
			<Choice
				form={form}
				name="kind"
				label="Kind"
				options={KINDS}
				labels={KIND_WORDS}
				hint="Decides the steps of measuring with it, and which standards it is dipped in."
			/>
			{conducts && (
				<div>
					<Choice
						form={form}
						name="ppm_scale"
						label="ppm scale"
						options={['', '500', '640', '700']}
						hint="The same water is 500 ppm on one meter and 700 on another."
					/>
					<button type="button" className="act !font-normal mt-2" onClick={() => setFinding(!finding)}>
						Find the scale
					</button>
					{finding && (
						<div className="mt-2">
							<ScaleFinder
								onFound={(scale) => {
									setFinding(false);
									form.setValue('ppm_scale', String(scale));
									// What was found out was always so.
									void save('always')();
								}}
							/>
						</div>
					)}
				</div>
			)}
			{conducts && (
				<Tick form={form} name="compensates">
					brings EC to 25 °C by itself (it says ATC)
				</Tick>
			)}
			<InstrumentLeaflet form={form} />
			{changed && <SinceWhen {...asked} />}
			<div>
				<button type="submit" className="act act-main" disabled={form.formState.isSubmitting}>
					Save
				</button>
			</div>
		</form>
	);
}
