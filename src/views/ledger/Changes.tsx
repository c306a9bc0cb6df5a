import { useState } from 'react';
import type { ChangeLine } from '@/contract/audit';
import type { SiteView } from '@/core/reading/site-view';
import { changeWords } from '@/words/en/changed';
import { type Held, unheld } from '../data/held';
import { useAsked } from '../data/queries';
import { dateTime } from '../ui/format';

const MOST = 100;

/** Who changed what, the newest first: searched by a person or by any word in it, each with what it was before. */
export function Changes({ site: held }: { site: Held<SiteView> }) {
	const site = unheld(held);
	const [who, setWho] = useState('');
	const [text, setText] = useState('');
	const [last, setLast] = useState<number | null>(null);
	const { data, isPending } = useAsked('GET /audit', {
		query: {
			limit: MOST,
			...(who.trim() ? { who: who.trim() } : {}),
			...(text.trim() ? { text: text.trim() } : {}),
			...(last === null ? {} : { before: last }),
		},
	});
	const changes = data?.changes ?? [];
	return (
		<div>
			<h1>Who did what</h1>
			<p className="text-soft mb-3">
				Every change and decision. Who entered a reading or an event stands with it, in the{' '}
				<a className="underline" href="/ledger">
					Ledger
				</a>
				.
			</p>
			<form className="flex flex-wrap gap-3 mb-3" onSubmit={(e) => e.preventDefault()}>
				<label className="block w-52">
					<span className="field-label">Who</span>
					<input
						className="field"
						maxLength={80}
						value={who}
						onChange={(e) => {
							setLast(null);
							setWho(e.target.value);
						}}
					/>
				</label>
				<label className="block w-72">
					<span className="field-label">With this word in it</span>
					<input
						className="field"
						maxLength={80}
						value={text}
						onChange={(e) => {
							setLast(null);
							setText(e.target.value);
						}}
					/>
				</label>
			</form>
			{!isPending && changes.length === 0 && <p className="text-soft">Nothing like that was changed.</p>}
			<ul>
				{changes.map((c) => (
					<Change key={c.id} change={c} zone={site.timezone} />
				))}
			</ul>
			<div className="flex gap-3 mt-3">
				{last !== null && (
					<button type="button" className="act !font-normal" onClick={() => setLast(null)}>
						Newest
					</button>
				)}
				{changes.length === MOST && (
					<button type="button" className="act !font-normal" onClick={() => setLast(changes.at(-1)!.id)}>
						Older
					</button>
				)}
			</div>
		</div>
	);
}

const shown = (v: unknown): string =>
	v === undefined || v === null || v === '' ? 'nothing' : typeof v === 'string' ? v : JSON.stringify(v);

/** What differs between what was kept and what was kept before: names with both values. */
function differences({ detail, before }: ChangeLine): [string, string, string][] {
	// Some keep both themselves.
	const own = detail as { before?: Record<string, unknown>; after?: Record<string, unknown> };
	const [was, is] = own.before && own.after ? [own.before, own.after] : [before ?? {}, detail];
	return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((name) => {
		const [a, b] = [shown(was[name]), shown(is[name])];
		return a === b || name === 'id' ? [] : [[name, a, b] as [string, string, string]];
	});
}

function Change({ change: c, zone }: { change: ChangeLine; zone: string }) {
	const found = differences(c);
	return (
		<li className="border-t border-line py-1.5" data-change={c.what}>
			<details>
				<summary className="cursor-pointer">
					<span className="text-soft">{dateTime(Date.parse(c.at), zone)}</span> <strong>{c.who}</strong>{' '}
					{changeWords(c.what)} <span className="break-all">{c.subject}</span>
				</summary>
				{found.length === 0 ? (
					<p className="text-soft text-[0.9rem]">Nothing else is kept of it.</p>
				) : (
					<table className="text-[0.9rem] my-1">
						<thead className="text-soft text-left">
							<tr>
								<th className="pr-4 font-normal">what</th>
								<th className="pr-4 font-normal">before</th>
								<th className="font-normal">since</th>
							</tr>
						</thead>
						<tbody>
							{found.map(([name, was, is]) => (
								<tr key={name} className="align-top">
									<td className="pr-4">{name}</td>
									<td className="pr-4 text-soft break-all">{was}</td>
									<td className="break-all">{is}</td>
								</tr>
							))}
						</tbody>
					</table>
				)}
				<p className="text-soft text-[0.85rem]">{c.device ? `from device ${c.device.slice(0, 8)}` : 'by a script'}</p>
			</details>
		</li>
	);
}
