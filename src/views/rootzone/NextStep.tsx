import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { MISSING_WORDS, STEP_WHY, STEP_WORDS } from '@/words/en/irrigation';
import { api } from '../data/client';
import { ecShown, ecWithUnit, volumeWithUnit } from '../mix/typed';
import { dateTime } from '../ui/format';

type Advice = Drains['advice'];
type Step = NonNullable<Advice['step']>;
const percent = (x: number): string => `${Math.round(100 * x)} %`;

/** The one thing to change next, what it should bring, and why; or what is to be measured or waited for first. */
export function NextStep({
	drains: d,
	site,
	onDone,
}: {
	drains: Drains;
	site: SiteView;
	onDone: (said: string, problem: string) => void;
}) {
	const { step: a } = d.advice;
	async function take(kind: Step['kind']) {
		try {
			await api('POST /irrigation-steps', { body: { system: d.system, kind } });
			onDone('The step is noted: read the drain again when it says.', '');
		} catch (error) {
			onDone('', (error as Error).message);
		}
	}
	return (
		<section className="note-rule" data-next-step={d.advice.kind} aria-live="polite">
			<h2>The next step</h2>
			{a ? (
				<>
					<p className="text-[1.1rem]">
						<strong>{STEP_WORDS[a.kind]}:</strong> {setWords(a, d, site)}.
					</p>
					<p>{STEP_WHY[a.kind]}</p>
					<p data-expects>{expectWords(a, site)}</p>
					<button type="button" className="act act-main mt-1" onClick={() => take(a.kind)}>
						{a.kind === 'flush' ? 'I flush them now' : 'I have set it so'}
					</button>
					<p className="text-soft text-[0.85rem] mt-1">
						Drain and flushing water is discharge: where it may go, local rules say. One step at a time.
					</p>
				</>
			) : (
				<p>{whyNone(d.advice, site)}</p>
			)}
		</section>
	);
}

function whyNone(a: Advice, site: SiteView): string {
	if (a.missing) return MISSING_WORDS[a.missing];
	if (a.kind === 'beyond')
		return 'The feed is as weak as the crop allows and it was flushed: look at the roots and the water, and ask an adviser.';
	if (a.until === null) return 'Leave it as it is: the drain is within its limit.';
	const until = dateTime(Date.parse(a.until), site.timezone);
	return a.working
		? `The last step works: leave it, and read the drain again after ${until}.`
		: `The last step has to work first: read the drain after ${until}.`;
}

/** How the watering is to be set. */
function setWords(a: Step, d: Drains, site: SiteView): string {
	if (a.kind === 'more-runs' || a.kind === 'fewer-runs')
		return `${a.runs_a_day} runs a day instead of ${d.runs_a_day}${a.run_times ? ` (${a.run_times})` : ''}`;
	if (a.kind === 'longer-runs') return `${a.minutes} minutes each`;
	if (a.kind === 'weaker-feed') return `at ${ecWithUnit(a.feed_us_cm, site.units)}`;
	const litres = volumeWithUnit(Number((a.flush_l ?? 0).toPrecision(2)), site.units);
	return `${litres} for each bag at ${ecWithUnit(a.feed_us_cm, site.units)}, in five goes within a few hours`;
}

function expectWords(a: Step, site: SiteView): string {
	const at = dateTime(Date.parse(a.look_at), site.timezone);
	const { drain_us_cm: drain, share } = a.expect;
	const ec = (v: number) => ecShown(v, site.units);
	if (a.kind === 'flush')
		return drain
			? `The drain after ${at}: ${ec(drain.low)} to ${ec(drain.high)} (nine times in ten).`
			: `Read the drain after ${at}.`;
	const runs = `then ${percent(share.low)} to ${percent(share.high)} runs off`;
	return drain
		? `Expected after ${at}: ${runs}, the drain at ${ec(drain.low)} to ${ec(drain.high)} (nine times in ten).`
		: `Expected after ${at}: ${runs}. So little runs off now that nobody knows what the bags hold: the drain may stand higher first, as that comes out.`;
}
