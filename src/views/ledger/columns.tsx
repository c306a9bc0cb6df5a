import type { StoredReading } from '@/contract/readings';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { causeWords } from '@/words/en/cause';
import { dateTime, shownWithUnit, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import type { Column } from '../ui/table-state';

/** By its name, in use or retired. */
export const stationName = (site: SiteView, code: string): string =>
	site.stations.find((x) => x.info.code === code)?.name ??
	site.retired.find((x) => x.station && x.code === code)?.name ??
	code;
const instrumentName = (site: SiteView, code: string): string =>
	site.instruments.find((x) => x.info.code === code)?.name ??
	site.retired.find((x) => !x.station && x.code === code)?.name ??
	code;

/** The columns of the Ledger. */
export const columnsOf = (site: SiteView): Column<StoredReading>[] => [
	{
		id: 'time',
		name: 'Time',
		of: (r) => Date.parse(r.time),
		cell: (r) => dateTime(Date.parse(r.time), site.timezone),
		className: 'whitespace-nowrap',
	},
	{
		id: 'station',
		name: 'Station',
		of: (r) => stationName(site, r.station),
		cell: (r) => stationName(site, r.station),
	},
	{
		id: 'quantity',
		name: 'Quantity',
		of: (r) => QUANTITY[r.quantity].name,
		cell: (r) => QUANTITY[r.quantity].name,
		wide: true,
	},
	{
		id: 'value',
		name: 'Value',
		of: (r) => r.restated ?? r.canonical_value,
		cell: (r) => (
			<>
				<span className="md:hidden block font-normal text-soft text-[0.8rem]">{QUANTITY[r.quantity].name}</span>
				{shownWithUnit(r.quantity, r.restated ?? r.canonical_value, site.units).replace(/^pH /, '')}
			</>
		),
		className: 'font-bold whitespace-nowrap',
	},
	{
		id: 'as-read',
		name: 'As read',
		of: (r) => Number.parseFloat(r.value),
		cell: (r) => `${r.value} ${unitLabel(r.unit)}`,
		wide: true,
		className: 'text-soft whitespace-nowrap',
	},
	{
		id: 'instrument',
		name: 'With',
		of: (r) => r.instrument ?? '',
		cell: (r) => (r.instrument ? instrumentName(site, r.instrument) : ''),
		wide: true,
	},
	{
		id: 'standing',
		name: 'Standing',
		of: (r) => r.flag,
		cell: (r) => <StandingMark standing={standingOf(r)} word />,
		className: 'whitespace-nowrap',
	},
	{
		id: 'note',
		name: 'Note',
		of: (r) => r.note,
		cell: (r) => r.note || causeWords(r.cause),
		wide: true,
		className: 'text-soft max-w-[26ch] truncate',
	},
];
