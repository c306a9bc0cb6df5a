import type { KeyboardEvent } from 'react';
import { QUANTITY, type Quantity } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { HUE_NAME, unitLabel } from '../ui/format';
import { NumberField } from '../ui/NumberField';
import type { Texts } from './draft';
import { bareUnit, type FieldValue } from './understand';

/** How a field was understood, where that is not plain from what stands in it. */
function saidOf(v: FieldValue, bare: string): string {
	if (v.state === 'problem') return v.message;
	if (v.state === 'empty') return '';
	const value = `${v.digits} ${unitLabel(v.unit)}`.trim();
	if (v.drops) return `${v.drops} ${v.drops === 1 ? 'drop' : 'drops'}: ${value}`;
	return v.marked || v.unit !== bare ? `read as ${value}` : '';
}

/** The fields of one dip. `prefix` tells further dips of the same sample apart. */
export function SampleFields({
	prefix,
	fields,
	large,
	texts,
	understood,
	expected,
	units,
	register,
	onText,
	onKey,
}: {
	prefix: string;
	fields: readonly Quantity[];
	/** What is dipped every time; the rest is asked now and then. */
	large: boolean;
	texts: Texts;
	understood: Partial<Record<Quantity, FieldValue>>;
	expected: (q: Quantity) => string | undefined;
	units: DisplayUnits;
	register: (id: string, el: HTMLInputElement | null) => void;
	onText: (q: Quantity, text: string) => void;
	onKey: (e: KeyboardEvent<HTMLInputElement>, q: Quantity) => void;
}) {
	return (
		<div className={large ? 'grid grid-cols-3 gap-3' : 'contents'}>
			{fields.map((q) => {
				const v = understood[q] ?? { state: 'empty' };
				const bare = bareUnit(q, units);
				const id = `${prefix}${q}`;
				return (
					<NumberField
						key={id}
						id={id}
						label={QUANTITY[q].name}
						unit={unitLabel(bare)}
						hue={HUE_NAME[q] ?? ''}
						text={texts[q] ?? ''}
						expected={expected(q)}
						said={saidOf(v, bare)}
						wrong={v.state === 'problem'}
						large={large}
						register={(el) => register(id, el)}
						onText={(text) => onText(q, text)}
						onKey={(e) => onKey(e, q)}
					/>
				);
			})}
		</div>
	);
}
