import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { STEP_WORDS } from '@/words/en/irrigation';
import { api } from '../data/client';
import { ecShown } from '../mix/typed';
import { dateTime } from '../ui/format';
import { TakeBack } from './TakeBack';

const SHOWN = 6;
const percent = (x: number | null): string => (x === null ? '?' : `${Math.round(100 * x)} %`);

/** The steps that were taken, what each should have brought, and what it did. */
export function Steps({
	drains: d,
	site,
	onDone,
}: {
	drains: Drains;
	site: SiteView;
	onDone: (said: string, problem: string) => void;
}) {
	if (d.steps.length === 0) return null;
	const ec = (v: number) => ecShown(v, site.units);
	async function takeBack(id: number) {
		try {
			await api('POST /irrigation-steps/:id/withdrawal', { params: { id }, body: {} });
			onDone('The step is taken back; the watering is as it was before, unless it was changed since.', '');
		} catch (error) {
			onDone('', (error as Error).message);
		}
	}
	return (
		<section className="note-rule" data-steps={d.steps.length}>
			<h2>What was changed, and what it did</h2>
			<ol className="text-[0.92rem]">
				{d.steps.slice(0, SHOWN).map((s, i) => (
					<li key={s.id} className="border-t border-line py-1" data-step={s.kind}>
						<strong>{STEP_WORDS[s.kind]}</strong>, {dateTime(Date.parse(s.time), site.timezone)}
						{s.kind.endsWith('-runs') && ` · ${s.runs_a_day} runs${s.minutes ? ` of ${s.minutes} min` : ''}`}
						{s.kind === 'weaker-feed' && ` · feed ${ec(s.feed_us_cm)}`}
						<br />
						{s.before && `before: drain ${ec(s.before.drain_us_cm)}, ${percent(s.before.share)} ran off; `}
						{s.after
							? `then: drain ${ec(s.after.drain_us_cm)}, ${percent(s.after.share)} ran off`
							: i > 0
								? 'no drain was read before the next step'
								: `look after ${dateTime(Date.parse(s.look_at), site.timezone)}`}
						{s.after && ` · ${cameWords(s.after.as_expected)}`}{' '}
						<TakeBack
							what={`the step of ${dateTime(Date.parse(s.time), site.timezone)}`}
							onBack={() => takeBack(s.id)}
						/>
					</li>
				))}
			</ol>
		</section>
	);
}

const cameWords = (asExpected: boolean | null): string =>
	asExpected === null
		? 'nothing could be foretold'
		: asExpected
			? 'as expected'
			: 'not as expected: something else is at work, or it was not carried out';
