import { type ComponentProps, Suspense } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { useAsked } from '../data/queries';
import type { DriftChart as Drawn } from '../probes/DriftChart';
import { shortDay, shown } from '../ui/format';
import { lazily } from '../ui/later';

const DriftChart = lazily<ComponentProps<typeof Drawn>>(() =>
	import('../probes/DriftChart').then((m) => ({ default: m.DriftChart })),
);

/** What a probe was found to be worth so far, beside what is found now. Where there is room. */
export function ProbeCurve({
	instrument,
	quantity,
	site,
}: {
	instrument: string;
	quantity: 'ph' | 'ec';
	site: SiteView;
}) {
	const { data: story } = useAsked('GET /probes/:instrument/:quantity', { params: { instrument, quantity } });
	if (!story || story.calibrations.length === 0) return null;
	const say = (value: number) => shown(quantity, value, site.units);
	return (
		<aside className="hidden lg:block" aria-label={`How far off ${story.name} was`} data-probe-curve={instrument}>
			<h2 className="mb-1">How far off {story.name} was</h2>
			<Suspense>
				<DriftChart story={story} site={site} />
			</Suspense>
			<ul className="text-[0.9rem] text-soft">
				{[...story.calibrations]
					.reverse()
					.slice(0, 4)
					.map((c) => (
						<li key={c.id}>
							{shortDay(Date.parse(c.time), site.timezone)}:{' '}
							{c.points.map((p) => `${p.as_found === null ? '–' : say(p.as_found)} in ${say(p.nominal)}`).join(', ')}
							{c.verdict ? ` · ${c.verdict}` : ''}
						</li>
					))}
			</ul>
		</aside>
	);
}
