import { useState } from 'react';
import type { Alert } from '@/contract/watch';
import type { SiteView } from '@/core/reading/site-view';
import { dateTime } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

const SNOOZES = [
	[60, 'an hour'],
	[480, 'eight hours'],
	[1440, 'a day'],
	[10_080, 'a week'],
] as const;

/** One thing that goes on, and how to have it told no more for a while. */
export function AlertLine({
	alert: a,
	site,
	onSnooze,
}: {
	alert: Alert;
	site: SiteView;
	onSnooze: (minutes: number, reason: string) => Promise<boolean>;
}) {
	const [open, setOpen] = useState(false);
	const [minutes, setMinutes] = useState<number>(480);
	const [reason, setReason] = useState('');
	const snoozed = a.snoozed_until !== null && Date.parse(a.snoozed_until) > site.now;
	return (
		<li className="border-t border-line py-2" data-alert={a.id}>
			<p>
				<StandingMark standing={snoozed ? 'doubtful' : 'bad'} /> <strong>{a.words}</strong>
			</p>
			<div className="flex flex-wrap gap-x-4 gap-y-1 items-center">
				<span className="text-soft text-[0.92rem]">
					since {dateTime(Date.parse(a.since), site.timezone)}
					{snoozed && `; snoozed until ${dateTime(Date.parse(a.snoozed_until!), site.timezone)}: ${a.snooze_reason}`}
					{a.told_at === null && !snoozed && '; not told yet: quiet hours'}
				</span>
				{a.quantity && (
					<a
						className="underline"
						href={`/trends?part=lines&lines=${encodeURIComponent(`${a.station}.${a.quantity}`)}&days=1`}
					>
						look
					</a>
				)}
				{snoozed ? (
					<button type="button" className="act !font-normal" onClick={() => void onSnooze(0, '')}>
						Tell again
					</button>
				) : (
					!open && (
						<button type="button" className="act !font-normal" onClick={() => setOpen(true)}>
							Snooze
						</button>
					)
				)}
			</div>
			{open && !snoozed && (
				<form
					className="flex flex-wrap gap-2 items-end mt-1"
					onSubmit={(e) => {
						e.preventDefault();
						void onSnooze(minutes, reason.trim()).then((done) => done && setOpen(false));
					}}
				>
					<label className="block">
						<span className="field-label">for</span>
						<select className="field" value={minutes} onChange={(e) => setMinutes(Number(e.target.value))}>
							{SNOOZES.map(([m, name]) => (
								<option key={m} value={m}>
									{name}
								</option>
							))}
						</select>
					</label>
					<label className="block">
						<span className="field-label">because</span>
						<input className="field" maxLength={200} value={reason} onChange={(e) => setReason(e.target.value)} />
					</label>
					<button type="submit" className="act" disabled={reason.trim() === ''}>
						Snooze
					</button>
					<button type="button" className="act !font-normal" onClick={() => setOpen(false)}>
						Back
					</button>
				</form>
			)}
		</li>
	);
}
