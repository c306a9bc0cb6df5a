import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { dateTime } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

type Apart = Got<Contract['GET /sensors/apart']>['apart'][number];

/** Two sensors in one water that cannot both be right. */
export function SensorsApart({ apart: a, site }: { apart: Apart; site: SiteView }) {
	const nameOf = (code: string) => site.instruments.find((i) => i.info.code === code)?.name ?? code;
	const station = site.stations.find((s) => s.info.code === a.station)?.name ?? a.station;
	const [more, less] = a.by > 0 ? [a.first, a.second] : [a.second, a.first];
	const by = a.quantity === 'ph' ? Math.abs(a.by).toFixed(2) : `${(100 * Math.abs(a.by)).toFixed(0)} %`;
	return (
		<p className="mb-2" data-apart={`${a.first} ${a.second}`}>
			<StandingMark standing="doubtful" /> <strong>{station}</strong> {QUANTITY[a.quantity].name}: {nameOf(more)} shows{' '}
			{by} more than {nameOf(less)}
			<span className="text-soft"> · since {dateTime(Date.parse(a.since), site.timezone)}</span>.{' '}
			{a.off === null
				? 'Which of them is off is not known: dip both in one standard, or read the water with a pen twice.'
				: `By hand readings it is ${nameOf(a.off)} that is off: clean and calibrate it.`}
		</p>
	);
}
