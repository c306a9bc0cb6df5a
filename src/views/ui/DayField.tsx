import { useState } from 'react';
import { parseDay } from '@/core/quantity/when';
import { Field } from './Field';

/** A day as one says it, in the site's own calendar: `14 Jul`, `yesterday`, `2026-07-14`. What is not understood changes nothing. */
export function DayField({
	id,
	label,
	day,
	zone,
	width = 'w-44',
	onDay,
}: {
	id?: string;
	label: string;
	/** As 2026-07-14; empty for none. */
	day: string;
	zone: string;
	width?: string;
	onDay: (day: string) => void;
}) {
	const [text, setText] = useState(day);
	const now = Date.now();
	const read = text.trim() === '' ? '' : parseDay(text, now, zone);
	return (
		<Field
			label={label}
			width={width}
			wrong={read === null ? 'Write a day: 14 Jul, yesterday, 2026-07-14.' : undefined}
		>
			<input
				id={id}
				className="field"
				autoComplete="off"
				maxLength={30}
				aria-invalid={read === null}
				value={text}
				onChange={(e) => {
					setText(e.target.value);
					const typed = e.target.value.trim() === '' ? '' : parseDay(e.target.value, now, zone);
					if (typed !== null) onDay(typed);
				}}
			/>
			{read && read !== text.trim() && <span className="text-soft text-[0.85rem] block pt-1">{read}</span>}
		</Field>
	);
}
