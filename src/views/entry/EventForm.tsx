import { useState } from 'react';
import { decimal } from '@/core/quantity';
import { formatTime, parseTime } from '@/core/quantity/time';
import { type EventKind, POURING_KINDS } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS } from '@/words/en/event';
import { enter } from '../data/queue';

const KINDS = [...POURING_KINDS, 'note'] as const;

/** Logs what was done to the water at a station, so that the next reading is held against it. */
export function EventForm({
	site,
	station,
	onLogged,
}: {
	site: SiteView;
	station: string;
	onLogged: (words: string) => void;
}) {
	const [kind, setKind] = useState<EventKind>('water_added');
	const [amount, setAmount] = useState('');
	const [product, setProduct] = useState('');
	const [when, setWhen] = useState('');
	const [problem, setProblem] = useState('');
	const [words, unit] = EVENT_WORDS[kind];
	const name = site.stations.find((s) => s.info.code === station)?.name ?? station;
	return (
		<details className="border-t border-line mt-3 pt-2" data-event-form>
			<summary className="cursor-pointer text-soft min-h-8">Something was done to the water at {name}: log it</summary>
			<form
				className="flex flex-wrap gap-2 items-end mt-1"
				onSubmit={async (e) => {
					e.preventDefault();
					const value = amount.trim() === '' ? null : decimal(amount.trim());
					if (value === undefined) return setProblem('The amount is a number.');
					const time = when.trim() === '' ? null : parseTime(when, site.timezone);
					if (time && !time.ok) return setProblem('Write the time as 2026-07-14 07:30, or leave it empty for now.');
					if (time && time.at > Date.now()) return setProblem('That is still to come: log what was done.');
					try {
						const what = `${name}: ${words}${value === null ? '' : ` ${value} ${unit}`}`;
						const body = {
							station,
							time: formatTime(time ? time.at : Date.now()),
							kind,
							amount: value,
							unit: value === null ? '' : unit,
							product: kind === 'note' ? '' : product,
							note: kind === 'note' ? product : '',
						};
						const result = await enter('POST /events', { body }, what);
						setAmount('');
						setWhen('');
						setProblem('');
						onLogged(result.kind === 'stored' ? `${what} logged.` : `${what}. ${result.message}`);
					} catch (error) {
						setProblem((error as Error).message);
					}
				}}
			>
				<label className="block w-44">
					<span className="field-label">What</span>
					<select className="field" value={kind} onChange={(e) => setKind(e.target.value as EventKind)}>
						{KINDS.map((k) => (
							<option key={k} value={k}>
								{EVENT_WORDS[k][0]}
							</option>
						))}
					</select>
				</label>
				{unit && (
					<label className="block w-28">
						<span className="field-label">How much, {unit}</span>
						<input className="field" inputMode="decimal" value={amount} onChange={(e) => setAmount(e.target.value)} />
					</label>
				)}
				<label className="block w-44">
					<span className="field-label">{kind === 'note' ? 'Words' : 'Of what'}</span>
					<input className="field" value={product} maxLength={200} onChange={(e) => setProduct(e.target.value)} />
				</label>
				<label className="block w-44">
					<span className="field-label">When; now if empty</span>
					<input
						className="field"
						placeholder="2026-07-14 07:30"
						value={when}
						onChange={(e) => setWhen(e.target.value)}
					/>
				</label>
				<button type="submit" className="act !font-normal">
					Log it
				</button>
			</form>
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			{(kind === 'acid_added' || kind === 'base_added') && (
				<p className="text-soft text-[0.85rem] mt-1">
					Gloves and eye protection; acid into water, never the reverse; never acid with bleach or base. The product’s
					label comes first.
				</p>
			)}
		</details>
	);
}
