import { useState } from 'react';
import { decimal } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { enter } from '../data/queue';

const KINDS: readonly (readonly [EventKind, string, string])[] = [
	['water_added', 'water added', 'L'],
	['nutrient_added', 'nutrient added', 'mL'],
	['acid_added', 'acid added', 'mL'],
	['base_added', 'base added', 'mL'],
	['solution_changed', 'solution changed', 'L'],
	['note', 'note', ''],
];

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
	const [problem, setProblem] = useState('');
	const [, words, unit] = KINDS.find(([k]) => k === kind)!;
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
					try {
						const what = `${name}: ${words}${value === null ? '' : ` ${value} ${unit}`}`;
						const body = {
							station,
							time: new Date().toISOString(),
							kind,
							amount: value,
							unit: value === null ? '' : unit,
							product: kind === 'note' ? '' : product,
							note: kind === 'note' ? product : '',
						};
						const result = await enter('POST /events', { body }, what);
						setAmount('');
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
						{KINDS.map(([k, w]) => (
							<option key={k} value={k}>
								{w}
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
