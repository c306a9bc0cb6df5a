import { useState } from 'react';
import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import type { WatchSettings } from '@/contract/watch';
import { decimal, QUANTITY, SERIES_QUANTITIES, type SeriesQuantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { WATCH_KINDS, type WatchKind } from '@/core/watch/condition';
import { WATCH_WORDS } from '@/words/en/watch';
import { Text } from '../ui/controls';

type Body = Call<'POST /watch/conditions', Contract['POST /watch/conditions']>['body'];

/** What a kind of condition asks for. */
const ASKS: Record<
	WatchKind,
	{ quantity: boolean; number: 'minutes' | 'hours' | 'least' | null; usual: string; label: string }
> = {
	'out-of-range': { quantity: true, number: 'minutes', usual: '30', label: 'for more than, min' },
	'will-leave': { quantity: true, number: 'hours', usual: '24', label: 'within, hours' },
	silent: { quantity: false, number: 'minutes', usual: '30', label: 'for more than, min' },
	'out-of-water': { quantity: false, number: null, usual: '', label: '' },
	doubtful: { quantity: true, number: 'minutes', usual: '120', label: 'for more than, min' },
	'below-level': { quantity: true, number: 'least', usual: '', label: 'at least' },
};

/** Something more to be watched for. */
export function ConditionForm({
	site,
	settings,
	onSave,
}: {
	site: SiteView;
	settings: WatchSettings;
	onSave: (body: Body) => Promise<boolean>;
}) {
	const first = site.stations.find((s) => s.info.kind === 'reservoir') ?? site.stations[0]!;
	const [station, setStation] = useState(first.info.code);
	const [kind, setKind] = useState<WatchKind>('out-of-range');
	const [quantity, setQuantity] = useState<SeriesQuantity>('ph');
	const [number, setNumber] = useState(ASKS['out-of-range'].usual);
	const [ways, setWays] = useState({ mail: false, webhook: false });
	const asks = ASKS[kind];
	const ranges = site.stations.find((s) => s.info.code === station)?.info.ranges ?? {};
	const quantities: readonly SeriesQuantity[] =
		kind === 'below-level'
			? ['level', 'volume']
			: kind === 'doubtful'
				? SERIES_QUANTITIES
				: SERIES_QUANTITIES.filter((q) => ranges[q]);
	const of = quantities.includes(quantity) ? quantity : quantities[0];
	const n = decimal(number.trim());
	const complete = (asks.number === null || (n !== undefined && n > 0)) && (!asks.quantity || of !== undefined);
	return (
		<form
			className="mt-4 border-t border-line pt-3"
			data-watch-form
			onSubmit={(e) => {
				e.preventDefault();
				if (!complete) return;
				void onSave({
					station,
					kind,
					...(asks.quantity && of ? { quantity: of } : {}),
					...(asks.number ? { [asks.number]: n } : {}),
					by_mail: ways.mail,
					by_webhook: ways.webhook,
				});
			}}
		>
			<h2>Watch also</h2>
			<div className="flex flex-wrap gap-3 items-end">
				<label className="block w-44">
					<span className="field-label">Station</span>
					<select className="field" value={station} onChange={(e) => setStation(e.target.value)}>
						{site.stations.map((s) => (
							<option key={s.info.code} value={s.info.code}>
								{s.name}
							</option>
						))}
					</select>
				</label>
				<label className="block w-60">
					<span className="field-label">when</span>
					<select
						className="field"
						value={kind}
						onChange={(e) => {
							const next = e.target.value as WatchKind;
							setKind(next);
							setNumber(ASKS[next].usual);
						}}
					>
						{WATCH_KINDS.map((k) => (
							<option key={k} value={k}>
								{WATCH_WORDS[k]}
							</option>
						))}
					</select>
				</label>
				{asks.quantity && (
					<label className="block w-44">
						<span className="field-label">what</span>
						<select className="field" value={of ?? ''} onChange={(e) => setQuantity(e.target.value as SeriesQuantity)}>
							{quantities.map((q) => (
								<option key={q} value={q}>
									{QUANTITY[q].name}
								</option>
							))}
						</select>
					</label>
				)}
				{asks.number && (
					<Text
						label={asks.number === 'least' && of ? `${asks.label}, ${QUANTITY[of].canonical}` : asks.label}
						value={number}
						onChange={setNumber}
						width="w-36"
						mode="decimal"
					/>
				)}
				{(['mail', 'webhook'] as const).map(
					(way) =>
						settings[way] && (
							<label key={way} className="flex items-center gap-2 min-h-10">
								<input
									type="checkbox"
									className="checkbox checkbox-sm"
									checked={ways[way]}
									onChange={(e) => setWays({ ...ways, [way]: e.target.checked })}
								/>
								by {way} too
							</label>
						),
				)}
				<button type="submit" className="act act-main" disabled={!complete}>
					Watch
				</button>
			</div>
			{asks.quantity && quantities.length === 0 && (
				<p className="text-soft">This station has no target range. Give it one in Setup first.</p>
			)}
		</form>
	);
}
