import { useState } from 'react';
import { decimal } from '@/core/quantity';
import { formatTime, parseTime, wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS } from '@/words/en/event';
import { enter } from '../data/queue';
import { dateTime } from '../ui/format';
import type { StoredEvent } from './EventList';

/** As it is typed, by the clock of the site. */
const typedTime = (at: number, zone: string): string =>
	new Date(wallTime(at, zone)).toISOString().slice(0, 16).replace('T', ' ');

/** One event; open, its own words can be mended or it can be taken back. */
export function EventRow({
	event: e,
	site,
	open,
	onToggle,
	onWithdraw,
	onCorrected,
}: {
	event: StoredEvent;
	site: SiteView;
	open: boolean;
	onToggle: () => void;
	onWithdraw: () => void;
	onCorrected: (words: string) => void;
}) {
	const at = Date.parse(e.time);
	const [draft, setDraft] = useState({
		time: typedTime(at, site.timezone),
		station: e.station,
		amount: e.amount === null ? '' : String(e.amount),
		unit: e.unit,
		product: e.product,
		note: e.note,
	});
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	const name = site.stations.find((s) => s.info.code === e.station)?.name ?? e.station;
	const amount = e.amount === null ? '' : ` ${e.amount} ${e.unit}`;

	async function correct() {
		const time = parseTime(draft.time, site.timezone);
		if (!time.ok) return setProblem('Write the time as 2026-07-14 07:30.');
		const value = draft.amount.trim() === '' ? null : decimal(draft.amount.trim());
		if (value === undefined) return setProblem('The amount is a number.');
		setBusy(true);
		try {
			const result = await enter(
				'POST /events/:id/correction',
				{
					params: { id: e.id },
					body: {
						time: formatTime(time.at),
						station: draft.station,
						amount: value,
						unit: draft.unit,
						product: draft.product,
						note: draft.note,
					},
				},
				`correction of ${name} ${EVENT_WORDS[e.kind][0]}`,
			);
			onCorrected(result.kind === 'stored' ? 'Corrected; what hung on it is judged anew.' : result.message);
		} catch (error) {
			setProblem((error as Error).message);
		} finally {
			setBusy(false);
		}
	}
	const field = (key: 'time' | 'amount' | 'unit' | 'product' | 'note', label: string, width: string) => (
		<label className={`block ${width}`}>
			<span className="field-label">{label}</span>
			<input
				className="field"
				value={draft[key]}
				inputMode={key === 'amount' ? 'decimal' : undefined}
				maxLength={key === 'note' ? 2000 : 200}
				onChange={(x) => setDraft({ ...draft, [key]: x.target.value })}
			/>
		</label>
	);
	return (
		<li className="border-b border-line" data-event={e.id}>
			<button
				type="button"
				className="w-full text-left py-2 cursor-pointer flex flex-wrap gap-x-3"
				aria-expanded={open}
				onClick={onToggle}
			>
				<span className="w-32 text-soft">{dateTime(at, site.timezone)}</span>
				<strong>{name}</strong>
				<span>
					{EVENT_WORDS[e.kind][0]}
					{amount}
				</span>
				<span className="text-soft">{[e.product, e.note].filter((x) => x !== '').join(', ')}</span>
			</button>
			{open && (
				<form
					className="pb-3"
					onSubmit={(x) => {
						x.preventDefault();
						correct();
					}}
				>
					<div className="flex flex-wrap gap-2 items-end">
						{field('time', `When (${site.timezone})`, 'w-44')}
						<label className="block w-44">
							<span className="field-label">Where</span>
							<select
								className="field"
								value={draft.station}
								onChange={(x) => setDraft({ ...draft, station: x.target.value })}
							>
								{site.stations.map((s) => (
									<option key={s.info.code} value={s.info.code}>
										{s.name}
									</option>
								))}
							</select>
						</label>
						{field('amount', 'How much', 'w-24')}
						{field('unit', 'Unit', 'w-20')}
						{field('product', 'Of what', 'w-44')}
						{field('note', 'Note', 'w-56')}
					</div>
					<div className="flex flex-wrap gap-2 mt-2">
						<button type="submit" className="act act-main" disabled={busy}>
							Correct it
						</button>
						<button type="button" className="act !font-normal" disabled={busy} onClick={onWithdraw}>
							It never happened: take it back
						</button>
					</div>
					<p className="text-soft text-[0.85rem] mt-1">
						What was logged first stays in the record; readings and doses since are judged by what it says now.
					</p>
					{problem && (
						<p role="alert" className="text-error">
							{problem}
						</p>
					)}
				</form>
			)}
		</li>
	);
}
