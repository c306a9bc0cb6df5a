import type { PlanShown } from '@/contract/plans';
import type { SiteView } from '@/core/reading/site-view';
import { dayShown, ecRange } from './season-values';

const DAY = 86_400_000;
const at = (day: string): number => Date.parse(`${day}T00:00:00Z`);

/** The season as a row of stages, each as wide as its days, with today across. */
export function SeasonBar({ plan: p, site }: { plan: PlanShown; site: SiteView }) {
	const [first] = p.spans;
	if (!first) return null;
	const ends = p.spans.map((s) => (s.until ? at(s.until) : at(s.from) + p.stages[s.index]!.days * DAY));
	const [from, to] = [at(first.from), Math.max(...ends)];
	const place = (t: number) => `${(100 * (Math.min(Math.max(t, from), to) - from)) / (to - from)}%`;
	return (
		<figure className="relative max-w-[60rem]" aria-label="The season by its stages" data-season-bar>
			<div className="flex">
				{p.spans.map((s, i) => (
					<div
						key={s.index}
						className={`min-w-0 border-l border-line px-1 py-1 overflow-hidden ${s.index === p.current ? 'bg-[var(--zone)] font-bold' : ''} ${s.begun ? '' : 'text-soft'}`}
						style={{ flexGrow: Math.max(1, (ends[i]! - at(s.from)) / DAY), flexBasis: 0 }}
					>
						<span className="block truncate">{p.stages[s.index]!.name}</span>
						<span className="block truncate text-[0.8rem]">{ecRange(p.stages[s.index]!.ec_us_cm, site.units)}</span>
						<span className="block truncate text-[0.8rem]">{dayShown(s.from, site)}</span>
					</div>
				))}
			</div>
			<div
				className="absolute inset-y-0 border-l-2 border-base-content"
				style={{ left: place(site.now) }}
				aria-hidden="true"
			/>
		</figure>
	);
}
