import type { KeyboardEvent } from 'react';
import type { Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { type Dip, USUAL } from './dips';
import { SampleFields } from './SampleFields';

/** The fields of a sample, one row a dip; all but the first say what they were measured with and can be left out. */
export function DipRows({
	site,
	rows,
	order,
	expected,
	register,
	onInstrument,
	onLeaveOut,
	onText,
	onKey,
}: {
	site: SiteView;
	rows: readonly Dip[];
	/** The order in which this water is dipped. */
	order: readonly Quantity[];
	expected: (q: Quantity) => string | undefined;
	register: (id: string, el: HTMLInputElement | null) => void;
	onInstrument: (row: number, code: string) => void;
	onLeaveOut: (row: number) => void;
	onText: (row: number, q: Quantity, text: string) => void;
	onKey: (e: KeyboardEvent<HTMLInputElement>, text: string) => void;
}) {
	return (
		<>
			{rows.map((r, row) => (
				<div key={r.prefix}>
					{row > 0 && (
						<div className="flex gap-3 items-end mb-2">
							<InstrumentChoice
								id={`instrument${r.prefix}`}
								label="and with"
								site={site}
								value={r.instrument ?? ''}
								onChange={(code) => onInstrument(row, code)}
							/>
							<button
								type="button"
								className="underline cursor-pointer min-h-10 text-soft"
								onClick={() => onLeaveOut(row)}
							>
								leave it out
							</button>
						</div>
					)}
					<SampleFields
						prefix={r.prefix}
						fields={row === 0 ? order : USUAL}
						large
						texts={r.texts}
						understood={r.values}
						expected={expected}
						units={site.units}
						register={register}
						onText={(q, text) => onText(row, q, text)}
						onKey={(e, q) => onKey(e, r.texts[q] ?? '')}
					/>
				</div>
			))}
		</>
	);
}
