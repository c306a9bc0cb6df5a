import { useState } from 'react';
import { parseTime } from '@/core/quantity/time';
import { parseDay, parseWhen } from '@/core/quantity/when';
import { whenProblem } from '@/words/en/when';
import { Wrong } from '../ui/Field';
import { dateTime } from '../ui/format';

/** From when on a change holds: now, always, or since a time that is past, as the API has it. */
export type Since = 'now' | 'always' | (string & {});

type Way = 'now' | 'always' | 'time';
const WORDS: Record<Way, string> = {
	now: 'from now on: what was read before stays as it was',
	time: 'since a time: what was read since then is worked out and judged again by it',
	always: 'it was always so: all that was read is worked out and judged again by it',
};

/** A day without an hour is meant from its beginning. */
function momentOf(text: string, zone: string): { at: number; wrong: null } | { at: null; wrong: string | null } {
	if (text.trim() === '') return { at: null, wrong: null };
	const now = Date.now();
	const when = parseWhen(text, now, zone);
	if (when.ok) return { at: when.value, wrong: null };
	const day = when.problem === 'which-hour' ? parseDay(text, now, zone) : null;
	const midnight = day === null ? null : parseTime(`${day}T00:00`, zone);
	return midnight?.ok && midnight.at <= now
		? { at: midnight.at, wrong: null }
		: { at: null, wrong: whenProblem(midnight?.ok ? 'to-come' : when.problem) };
}

/**
 * What is said of when a change holds from; null while that cannot be understood.
 * @param changed whether there is something of which it is asked; of the rest it is from now on
 */
export function useSince(zone: string, changed: boolean) {
	const [way, setWay] = useState<Way>('now');
	const [text, setText] = useState('');
	const { at, wrong } = momentOf(text, zone);
	const said: Since | null = way === 'time' ? (at === null ? null : new Date(at).toISOString()) : way;
	return { since: changed ? said : 'now', asked: { way, setWay, text, setText, at, wrong, zone } };
}

/** Whether something was changed, and when, or had been set down wrongly. */
export function SinceWhen({ way, setWay, text, setText, at, wrong, zone }: ReturnType<typeof useSince>['asked']) {
	return (
		<fieldset data-since>
			<legend className="field-label">What you changed holds</legend>
			{(Object.keys(WORDS) as Way[]).map((w) => (
				<div key={w}>
					<label className="flex items-center gap-2 min-h-11 cursor-pointer">
						<input type="radio" name="since" checked={way === w} onChange={() => setWay(w)} />
						{WORDS[w]}
					</label>
					{w === 'time' && way === w && (
						<div className="pl-6 pb-2">
							<input
								className="field !w-56"
								aria-label="Since when"
								placeholder="3 Jun, or 3 Jun 7:30"
								autoComplete="off"
								maxLength={40}
								aria-invalid={wrong !== null}
								// What nobody understands is not sent.
								ref={(el) => el?.setCustomValidity(at === null ? 'Write since when it holds.' : '')}
								value={text}
								onChange={(e) => setText(e.target.value)}
							/>
							{at !== null && <span className="text-soft text-[0.85rem] block pt-1">{dateTime(at, zone)}</span>}
							<Wrong>{wrong ?? undefined}</Wrong>
						</div>
					)}
				</div>
			))}
		</fieldset>
	);
}
