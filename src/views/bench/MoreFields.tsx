import type { KeyboardEvent } from 'react';
import { QUANTITIES, QUANTITY, type Quantity } from '@/core/quantity';
import { COUNTED, type PerDrop } from '@/core/reading/drops';
import type { SiteView } from '@/core/reading/site-view';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { unitLabel } from '../ui/format';
import { DropSize } from './DropSize';
import { type Dip, USUAL } from './dips';
import { SampleFields } from './SampleFields';

/** What is measured here beside pH, EC and temperature, each with what measures it; and the way to anything else. */
export function MoreFields({
	site,
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
				const per = meter?.perDrop[q];
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
