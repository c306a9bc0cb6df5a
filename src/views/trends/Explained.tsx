import type { ExplanationShown } from '@/contract/explanations';
import type { SiteView } from '@/core/reading/site-view';
import {
	BEGIN_WORDS,
	CAUSE_WORDS,
	chanceWords,
	doubtfulWords,
	evidenceWords,
	wanderWords,
} from '@/words/en/explanation';
import { shownWithUnit } from '../ui/format';

type Cause = ExplanationShown['causes'][number];
/** Less likely ones stand in a list of their own. */
const NAMED = 2;
const LEAST = 0.1;
/** A number that hardly changes anything is not worth a line. */
const SAYS = 0.1;

/** What would explain that a water wanders, likeliest first, with what speaks for and against each and what would settle it. */
export function Explained({
	found: e,
	station,
	site,
}: {
	found: ExplanationShown | undefined;
	station: string;
	site: SiteView;
}) {
	if (!e || e.says === 'unknown') return null;
	const wander = wanderWords(e.quantity, e);
	if (e.says === 'steady')
		return (
			<p className="text-soft text-[0.9rem]" data-explained={`${e.quantity} steady`}>
				{wander}
			</p>
		);
	const named = e.causes.filter((c, i) => i < NAMED || c.chance >= LEAST);
	const others = e.causes.filter((c) => !named.includes(c));
	const [first] = e.causes;
	return (
		<details className="note-rule mb-4" data-explained={`${e.quantity} ${e.says}`}>
			<summary className="cursor-pointer min-h-11 py-1.5">
				{wander}{' '}
				<strong className="inline-block first-letter:uppercase">
					{e.says === 'explained' && first
						? `${CAUSE_WORDS[first.cause].name}: ${chanceWords(first.chance)}`
						: 'What explains it cannot be told for sure'}
				</strong>
			</summary>
			<p>
				{BEGIN_WORDS}{' '}
				{e.doubtful > 0 && (
					<a className="underline" href={`/ledger?station=${encodeURIComponent(station)}&standing=doubtful`}>
						{doubtfulWords(e.doubtful)}
					</a>
				)}
			</p>
			<ol className="grid lg:grid-cols-2 gap-x-8 gap-y-3 mt-2">
				{named.map((c) => (
					<OneCause key={c.cause} quantity={e.quantity} cause={c} site={site} />
				))}
			</ol>
			{others.length > 0 && (
				<p className="text-soft text-[0.9rem] mt-2">
					Unlikely by what is written down: {others.map((c) => CAUSE_WORDS[c.cause].name).join(', ')}.
				</p>
			)}
			<p className="text-soft text-[0.85rem] mt-1">
				Ranked by what is in the book. Several may be at work, and one that nobody thought of.
			</p>
		</details>
	);
}

function OneCause({ quantity, cause: c, site }: { quantity: 'ph' | 'ec'; cause: Cause; site: SiteView }) {
	const words = CAUSE_WORDS[c.cause];
	const temp = (v: number) => shownWithUnit('temp', v, site.units);
	const side = (sign: number) =>
		c.evidence
			.filter((e) => e.weight * sign >= (e.says === 'moved' ? 0 : SAYS))
			.map((e) => evidenceWords(quantity, e, temp));
	const [pro, contra] = [side(1), side(-1)];
	return (
		<li data-cause={c.cause}>
			<p>
				<strong className="inline-block first-letter:uppercase">{words.name}</strong>{' '}
				<span className="text-soft">{chanceWords(c.chance)}</span>
			</p>
			<p className="text-[0.95rem]">{words.how}</p>
			{pro.length > 0 && <p className="text-[0.95rem]">For it: {pro.join('; ')}.</p>}
			{contra.length > 0 && <p className="text-[0.95rem]">Against it: {contra.join('; ')}.</p>}
			<p className="text-[0.95rem]">What would settle it: {words.settle}</p>
		</li>
	);
}
