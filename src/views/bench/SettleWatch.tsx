import { useEffect, useState } from 'react';
import { type Waits, wantedWait } from '@/core/judge/waits';
import { decimal } from '@/core/quantity';
import { FIELD, type SettlePoint, settling, TIGHT } from '@/core/reading/settling';
import { QUANTITY_HUE } from '../ui/format';
import { SettleCurve } from './SettleCurve';

const WORDS = {
	'too-few': 'noting',
	noisy: 'noisy: it jumps about; swirl, keep still, look at the cable',
	bubble: 'it fell at once: a bubble? Swirl the probe',
} as const;

/**
 * The waiting made useful: how long this water wants, and whether the display has settled by the values noted while it
 * moves. The wait goes with the reading.
 */
export function SettleWatch({
	ecHereUsCm,
	waits,
	usualWaitS,
	onWaited,
	onSettled,
}: {
	ecHereUsCm: number | null;
	waits: Waits;
	/** How long was usually waited here. */
	usualWaitS: Partial<Record<'ph' | 'ec', number>>;
	onWaited: (seconds: number | null) => void;
	onSettled: (quantity: 'ph' | 'ec', digits: string) => void;
}) {
	const [from, setFrom] = useState<number | null>(null);
	const [now, setNow] = useState(0);
	const [quantity, setQuantity] = useState<'ph' | 'ec'>('ph');
	const [text, setText] = useState('');
	const [points, setPoints] = useState<(SettlePoint & { digits: string })[]>([]);
	const [field, setField] = useState(false);
	useEffect(() => {
		if (from === null) return;
		const timer = setInterval(() => {
			const at = Date.now();
			setNow(at);
			onWaited(Math.round((at - from) / 1000));
		}, 250);
		return () => clearInterval(timer);
	}, [from, onWaited]);
	const wanted = wantedWait(quantity, ecHereUsCm, waits) ?? 30;
	const seconds = from === null ? 0 : Math.max(0, Math.round((now - from) / 1000));
	// EC is typed in mS/cm here; the criterion is a share, but its pure-water band wants µS/cm.
	const scaled = points.map((p) => ({ s: p.s, value: quantity === 'ec' && p.value < 20 ? p.value * 1000 : p.value }));
	const verdict = settling(quantity, scaled, field ? FIELD : TIGHT);
	const settled = verdict.state === 'settled' ? points.at(-1)!.digits : null;
	if (from === null)
		return (
			<button
				type="button"
				className="act !font-normal"
				onClick={() => {
					const at = Date.now();
					setFrom(at);
					setNow(at);
					setPoints([]);
				}}
			>
				The probe is in: time it
			</button>
		);
	return (
		<div className="border border-line rounded p-2 w-full" data-settle={verdict.state}>
			<p className="flex flex-wrap gap-x-4 items-center">
				<strong className="text-[1.2rem]" data-waited={seconds}>
					{seconds} s
				</strong>
				<span className="text-soft">
					{seconds < wanted
						? `this water wants about ${wanted} s${wanted > 60 ? ': few minerals, it wanders' : ''}`
						: 'long enough for this water'}
					{usualWaitS[quantity] !== undefined && `; usually ${Math.round(usualWaitS[quantity])} s here`}
				</span>
				<button
					type="button"
					className="underline cursor-pointer min-h-8"
					onClick={() => {
						setFrom(null);
						onWaited(null);
					}}
				>
					stop
				</button>
			</p>
			<form
				className="flex flex-wrap gap-2 items-end"
				onSubmit={(e) => {
					e.preventDefault();
					e.stopPropagation();
					const value = decimal(text.trim());
					if (value === undefined) return;
					setPoints([...points, { s: (Date.now() - from) / 1000, value, digits: text.trim().replace(',', '.') }]);
					setText('');
				}}
			>
				<label className="block w-24">
					<span className="field-label">Watching</span>
					<select
						className="field"
						value={quantity}
						onChange={(e) => {
							setQuantity(e.target.value as 'ph');
							setPoints([]);
						}}
					>
						<option value="ph">pH</option>
						<option value="ec">EC</option>
					</select>
				</label>
				<label className="block w-32">
					<span className="field-label">It shows, while it moves</span>
					<input
						id="settle-value"
						className="field"
						inputMode="decimal"
						autoComplete="off"
						value={text}
						onChange={(e) => setText(e.target.value)}
					/>
				</label>
				<button type="submit" className="act !font-normal">
					Note
				</button>
				<label className="flex gap-2 items-center min-h-10">
					<input type="checkbox" checked={field} onChange={(e) => setField(e.target.checked)} /> field criterion (±0.1
					pH, ±3 %)
				</label>
			</form>
			<SettleCurve
				points={points}
				settled={verdict.state === 'settled' ? verdict : null}
				hue={QUANTITY_HUE[quantity]!}
				label={`${quantity === 'ph' ? 'pH' : 'EC'} as noted while it moved`}
			/>
			<p aria-live="polite">
				{points.length > 0 && (
					<span className="text-soft">
						{points
							.slice(-6)
							.map((p) => p.digits)
							.join(' → ')}{' '}
						·{' '}
					</span>
				)}
				{verdict.state === 'settled' ? (
					<>
						<strong>settled</strong> at {settled}{' '}
						<button type="button" className="act ml-1" onClick={() => settled && onSettled(quantity, settled)}>
							Take {settled}
						</button>
					</>
				) : verdict.state === 'moving' ? (
					`still moving, ${verdict.perMinute > 0 ? '+' : ''}${verdict.perMinute.toPrecision(2)} a minute`
				) : points.length > 0 ? (
					WORDS[verdict.state]
				) : (
					''
				)}
			</p>
		</div>
	);
}
