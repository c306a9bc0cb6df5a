import type { KeyboardEvent } from 'react';
import { oxygenHeld } from '@/core/chem/oxygen';
import { vapourDeficit } from '@/core/chem/vapour';
import { QUANTITIES, QUANTITY, type Quantity, toCanonical } from '@/core/quantity';
import { litresAtLevel, tankShape } from '@/core/quantity/tank-shape';
import { COUNTED, type PerDrop } from '@/core/reading/drops';
import type { SiteView } from '@/core/reading/site-view';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { unitLabel } from '../ui/format';
import { DropSize } from './DropSize';
import { type Dip, USUAL } from './dips';
import { SampleFields } from './SampleFields';
import type { FieldValue } from './understand';

/** What is measured here beside pH, EC and temperature, each with what measures it; and the way to anything else. */
export function MoreFields({
	site,
	shape,
	dip,
	fields,
	expected,
	register,
	onText,
	onKey,
	onMore,
	onBy,
	onDropSize,
}: {
	site: SiteView;
	/** Of the tank, for a level. */
	shape: string;
	dip: Dip;
	fields: readonly Quantity[];
	expected: (q: Quantity) => string | undefined;
	register: (id: string, el: HTMLInputElement | null) => void;
	onText: (q: Quantity, text: string) => void;
	onKey: (e: KeyboardEvent<HTMLInputElement>, text: string) => void;
	onMore: (q: Quantity) => void;
	onBy: (q: Quantity, code: string) => void;
	onDropSize: (code: string, q: Quantity, per: PerDrop) => void;
}) {
	const rest = QUANTITIES.filter((q) => !USUAL.includes(q) && q !== 'tds' && !fields.includes(q));
	return (
		<div className="grid grid-cols-2 md:grid-cols-3 gap-x-3 gap-y-3 items-start mt-2 mb-3" data-more>
			{fields.map((q) => {
				const meter = site.instruments.find((i) => i.info.code === dip.by[q]);
				const per = meter?.info.perDrop?.[q];
				return (
					<div key={q}>
						<SampleFields
							prefix={dip.prefix}
							fields={[q]}
							large={false}
							texts={dip.texts}
							understood={dip.values}
							expected={expected}
							units={site.units}
							register={register}
							onText={onText}
							onKey={(e) => onKey(e, dip.texts[q] ?? '')}
						/>
						{q === 'do' && (
							<OxygenShare
								field={dip.values.do}
								temp={dip.values.temp}
								ec={dip.values.ec}
								altitudeM={site.settings.altitudeM}
							/>
						)}
						{q === 'humidity' && <Deficit field={dip.values.humidity} air={dip.values.air_temp} />}
						{q === 'level' && <LitresByLevel field={dip.values.level} shape={shape} />}
						<InstrumentChoice
							label="with"
							site={site}
							value={dip.by[q] ?? ''}
							unsaid
							of={q}
							width="w-full"
							onChange={(code) => onBy(q, code)}
						/>
						{meter?.kind === 'drop_kit' && COUNTED.includes(q) && (
							<DropSize
								key={meter.info.code}
								quantity={q}
								per={per ?? null}
								said={per ? `“5 drops” is 5 × ${per.value} ${unitLabel(per.unit)}` : null}
								onSize={(size) => onDropSize(meter.info.code, q, size)}
							/>
						)}
					</div>
				);
			})}
			<label className="block">
				<span className="field-label">Measure also</span>
				<select className="field" id="more" value="" onChange={(e) => onMore(e.target.value as Quantity)}>
					<option value="">…</option>
					{rest.map((q) => (
						<option key={q} value={q}>
							{QUANTITY[q].name}
						</option>
					))}
				</select>
			</label>
		</div>
	);
}

const canonical = (f: FieldValue | undefined): number | null =>
	f?.state === 'value' ? toCanonical(Number(f.digits), f.unit) : null;

/** Oxygen as a share of what water of this temperature holds; of a share, how much that is. */
function OxygenShare({
	field,
	temp,
	ec,
	altitudeM,
}: {
	field?: FieldValue | undefined;
	temp?: FieldValue | undefined;
	ec?: FieldValue | undefined;
	altitudeM: number;
}) {
	const [value, tempC] = [canonical(field), canonical(temp)];
	if (field?.state !== 'value' || value === null) return null;
	const held = tempC === null ? null : oxygenHeld({ tempC, ecUsCm: canonical(ec) ?? 0, altitudeM });
	return (
		<p className="text-[0.9rem]" data-oxygen-share>
			{held === null
				? 'With a temperature of 0 to 40 °C it is told as a share of saturation.'
				: field.unit === '%'
					? `${((value / 100) * held).toFixed(1)} mg/L at this temperature.`
					: `${Math.round((100 * value) / held)} % of what it holds ${altitudeM === 0 ? 'at sea level' : 'at this altitude'}.`}
		</p>
	);
}

/** What the air still takes up, where its temperature stands beside the humidity. */
function Deficit({ field, air }: { field?: FieldValue | undefined; air?: FieldValue | undefined }) {
	const [humidity, airC] = [canonical(field), canonical(air)];
	if (humidity === null || airC === null) return null;
	return (
		<p className="text-[0.9rem]" data-deficit>
			Vapour-pressure deficit {vapourDeficit(airC, humidity).toFixed(2)} kPa.
		</p>
	);
}

/** What a level is in litres, where the shape of the tank is known. */
function LitresByLevel({ field, shape }: { field: FieldValue | undefined; shape: string }) {
	const known = shape.trim() === '' ? null : tankShape(shape);
	if (!known?.ok || field?.state !== 'value' || field.unit === '%') return null;
	const litres = litresAtLevel(known.value, toCanonical(Number(field.digits), field.unit));
	return (
		<p className="text-[0.9rem]" data-litres>
			{litres === null ? 'Above what its table tells.' : `${Math.round(litres)} L by its shape.`}
		</p>
	);
}
