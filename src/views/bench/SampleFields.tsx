import type { KeyboardEvent } from 'react';
import { QUANTITY, type Quantity } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { unitLabel } from '../ui/format';
import type { Texts } from './draft';
import type { FieldValue } from './understand';

const EXAMPLE: Partial<Record<Quantity, string>> = { ph: '5.80', ec: '1.92', temp: '21.4' };

/** The fields of one dip. `prefix` tells further dips of the same sample apart. */
export function SampleFields({
	prefix,
	fields,
	texts,
	understood,
	units,
	register,
	onText,
	onKey,
}: {
	prefix: string;
	fields: readonly Quantity[];
	texts: Texts;
	understood: Partial<Record<Quantity, FieldValue>>;
	units: DisplayUnits;
	register: (id: string, el: HTMLInputElement | null) => void;
	onText: (q: Quantity, text: string) => void;
	onKey: (e: KeyboardEvent<HTMLInputElement>, q: Quantity) => void;
}) {
	const bare = (q: Quantity) => (q === 'ec' ? units.ec : q === 'temp' ? units.temp : 'pH');
	return (
		<div className="grid grid-cols-3 gap-3">
			{fields.map((q) => {
				const v = understood[q]!;
				const id = `${prefix}${q}`;
				return (
					<div key={id}>
						<label className="field-label" htmlFor={`f-${id}`}>
							{QUANTITY[q].name} <span>{q === 'ph' ? '' : unitLabel(bare(q))}</span>
						</label>
						<input
							id={`f-${id}`}
							ref={(el) => register(id, el)}
							className="field !text-[1.6rem] !min-h-14"
							style={{ borderBottom: `3px solid var(--q-${q})` }}
							inputMode="decimal"
							autoComplete="off"
							placeholder={EXAMPLE[q]}
							value={texts[q] ?? ''}
							aria-invalid={v.state === 'problem'}
							aria-describedby={`h-${id}`}
							onChange={(e) => onText(q, e.target.value)}
							onKeyDown={(e) => onKey(e, q)}
						/>
						<p
							id={`h-${id}`}
							className={`text-[0.85rem] min-h-6 pt-1 ${v.state === 'problem' ? 'text-error' : 'text-soft'}`}
						>
							{v.state === 'problem'
								? v.message
								: v.state === 'value' && (v.marked || v.unit !== bare(q))
									? `read as ${v.digits} ${unitLabel(v.unit)}`
									: ''}
						</p>
					</div>
				);
			})}
		</div>
	);
}
