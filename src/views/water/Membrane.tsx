import type { WaterMembrane } from '@/contract/pages';
import { dateFormat } from '@/core/quantity/date-format';
import type { SiteView } from '@/core/reading/site-view';
import { REJECTION_LIMITS } from '@/core/water/membrane';
import { ControlChart } from '../ui/ControlChart';
import { shortDay } from '../ui/format';

const WHY = {
	membrane: 'The feed is as it was: the membrane is tiring.',
	feed: 'The feed got worse; the membrane holds back as much as before.',
	both: 'Both the feed and the membrane have changed.',
	steady: 'Neither the feed nor the membrane has changed much.',
} as const;

/** What a membrane holds back, over time, and when it reaches its limits. */
export function Membrane({
	membrane: m,
	site,
	feedName,
}: {
	membrane: WaterMembrane;
	site: SiteView;
	feedName: string;
}) {
	const day = (at: number) => shortDay(at, site.timezone);
	const long = (at: number) =>
		dateFormat('en-GB', {
			timeZone: site.timezone,
			day: 'numeric',
			month: 'long',
			year: 'numeric',
		}).format(at);
	const percent = (v: number) => `${(100 * v).toFixed(1)} %`;
	const { state } = m;
	return (
		<div className="mt-3 border-t border-line pt-2" data-membrane={state.known ? state.grade : 'unknown'}>
			<h2>What the membrane holds back of {feedName}</h2>
			<ControlChart
				points={m.points.map((p) => ({ at: p.at, value: p.rejection, rules: [], segment: 0 }))}
				segments={[]}
				format={percent}
				day={day}
				hue="var(--q-level)"
				label="Rejection over time"
			/>
			{state.known ? (
				<p>
					<strong>{percent(state.rejection)}</strong> now
					{state.grade === 'replace'
						? ', below 80 %: replace it'
						: state.grade === 'watch'
							? ', below 90 %: watch it'
							: ''}
					. {WHY[state.why]}{' '}
					{(['watch', 'replace'] as const).map((limit) => {
						const w = state.reaches[limit];
						if (!w || state.rejection < REJECTION_LIMITS[limit]) return null;
						return (
							<span key={limit} data-reaches={limit}>
								At this pace it reaches {percent(REJECTION_LIMITS[limit])} about {long(w.likely)} ({long(w.early)} to{' '}
								{w.late === null ? 'not within three years' : long(w.late)}).{' '}
							</span>
						);
					})}
				</p>
			) : (
				<p className="text-soft">Six pairs of feed and permeate within two days of each other make a trend.</p>
			)}
		</div>
	);
}
