import type { LineStation, RoundReading } from '@/contract/rounds';
import { QUANTITY, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { permits } from '@/core/trust/trust';
import { openReading } from '../entry/opens';
import { age, shown, shownWithUnit } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';
import { StandingMark } from '../ui/StandingMark';

type Quantity2 = 'ph' | 'ec';

/** One station of the walk: what it last showed, and what is due. */
export function StationRow({
	row,
	site,
	now,
	first,
	last,
}: {
	row: LineStation;
	site: SiteView;
	now: number;
	first: boolean;
	last: boolean;
}) {
	const infoOf = (code: string) => site.stations.find((s) => s.info.code === code)!.info;

	const value = (q: Quantity2) => {
		const r = row[q];
		if (!r) return <span className="text-soft">–</span>;
		if (!permits(r, 'station')) return <span className="text-soft text-[0.85rem]">not telling: low minerals</span>;
		return (
			<>
				<span className="text-[1.25rem] font-bold">{shown(q, r.restated ?? r.canonical_value, site.units)}</span>
				<span className="text-soft text-[0.8rem] ml-1 sm:ml-0 sm:block">
					±{shown(q, 1.96 * (r.uncertainty ?? 0), site.units)}
				</span>
			</>
		);
	};
	const strip = (q: Quantity2) => {
		const r = row[q];
		if (!r || !permits(r, 'station')) return null;
		return (
			<button
				type="button"
				className="block w-full cursor-pointer text-left"
				aria-label={`${row.name}, ${shownWithUnit(q, r.restated ?? r.canonical_value, site.units)}: open it`}
				data-open-reading={r.id}
				onClick={() => openReading(r.id)}
			>
				<GaugeStrip
					quantity={q}
					value={r.restated ?? r.canonical_value}
					was={r.restated === null ? null : r.canonical_value}
					u={r.uncertainty ?? 0}
					range={infoOf(row.station).ranges[q] ?? null}
					standing={standingOf(r)}
					units={site.units}
					ends
				/>
			</button>
		);
	};
	const standing = () => {
		const marks = [row.ph, row.ec].filter((r): r is RoundReading => r !== null && permits(r, 'station'));
		const worst =
			marks.find((r) => standingOf(r) === 'bad') ?? marks.find((r) => standingOf(r) === 'doubtful') ?? marks[0];
		if (!worst) return null;
		const kind = standingOf(worst);
		const restated = marks.find((r) => r.restated !== null);
		return {
			standing: kind === 'sound' && restated ? ('restated' as const) : kind,
			message:
				kind === 'doubtful' || kind === 'bad'
					? worst.message
					: restated
						? `read as ${shown(restated.quantity, restated.canonical_value, site.units)}`
						: '',
		};
	};

	const s = standing();
	const newest = row.newest === null ? null : Date.parse(row.newest);
	return (
		<li className={`relative border-b border-line ${s && s.standing !== 'sound' ? 'bg-lit' : ''}`}>
			<Pipe first={first} last={last} joins={row.fed_by.length} />
			<div className="grid grid-cols-2 sm:grid-cols-[11.5rem_1fr_4.5rem_1fr_4.5rem_10.5rem] gap-x-3 items-center py-1.5 min-h-[3.75rem]">
				<a
					href={`/bench?station=${encodeURIComponent(row.station)}`}
					data-station={row.station}
					className="pl-9 col-span-1 block"
				>
					<span className="font-bold">{row.name}</span>
					<span className="block text-soft text-[0.8rem]">
						{row.about}
						{row.due.length === 0 && row.next_in_days !== null && row.next_in_days > 0 && ` · in ${row.next_in_days} d`}
					</span>
					<ToldWords row={row} site={site} now={now} />
					<DueWords row={row} />
				</a>
				<span className="sm:hidden text-right text-[0.85rem]">
					{newest !== null && age(newest, now)} {s && <StandingMark standing={s.standing} />}
				</span>
				<Cell name="pH" strip={strip('ph')} value={value('ph')} first />
				<Cell name="EC" strip={strip('ec')} value={value('ec')} />
				<div className="hidden sm:block text-[0.9rem]">
					{s && <StandingMark standing={s.standing} word />}{' '}
					<span className="text-soft">{newest === null ? 'never read' : age(newest, now)}</span>
					{s?.message && (
						<span className="block text-[0.8rem] leading-tight">{s.message.split('; did you mean')[0]}</span>
					)}
				</div>
			</div>
		</li>
	);
}

/** What was read of one quantity: on a wide screen the strip and the number are columns of their own. */
function Cell({
	name,
	strip,
	value,
	first = false,
}: {
	name: string;
	strip: React.ReactNode;
	value: React.ReactNode;
	first?: boolean;
}) {
	return (
		<div className={`flex flex-col-reverse sm:contents ${first ? 'pl-9' : ''}`}>
			<div>{strip}</div>
			<div>
				<span className="sm:hidden text-soft text-[0.8rem] mr-1">{name}</span>
				{value}
			</div>
		</div>
	);
}

/** What its sensors told last. */
function ToldWords({ row, site, now }: { row: LineStation; site: SiteView; now: number }) {
	if (row.told.length === 0) return null;
	const newest = Math.max(...row.told.map((t) => Date.parse(t.at)));
	const inOrder = [...row.told].sort((a, b) => (a.quantity === 'ph' ? -1 : b.quantity === 'ph' ? 1 : 0));
	const doubted = row.told.find((t) => !permits(t, 'station'));
	return (
		<span className="block text-[0.8rem]" data-told={row.station}>
			sensor{' '}
			{inOrder
				.map((t) => `${QUANTITY[t.quantity].name} ${shown(t.quantity, t.restated ?? t.value, site.units)}`)
				.join(', ')}{' '}
			<span className="text-soft whitespace-nowrap">{age(newest, now)}</span>
			{doubted && (
				<>
					{' '}
					<StandingMark standing={standingOf(doubted)} />
				</>
			)}
		</span>
	);
}

const dueName = (q: string): string => (q === 'temp' ? '°C' : QUANTITY[q as Quantity].name);

function DueWords({ row }: { row: LineStation }) {
	if (row.retest.length > 0)
		return <span className="block text-[0.8rem] font-bold">wants a retest: {row.retest.map(dueName).join(', ')}</span>;
	if (row.due.length > 0)
		return (
			<span className="block text-[0.8rem]" data-due={row.due.join(' ')}>
				due: {row.due.map(dueName).join(', ')}
				{row.overdue_days > 0 && <span className="text-soft whitespace-nowrap"> {row.overdue_days} d late</span>}
			</span>
		);
	return null;
}

/** The line drawn as a pipe; a station that several others feed has a joint. */
function Pipe({ first, last, joins }: { first: boolean; last: boolean; joins: number }) {
	return (
		<div className="absolute left-0 top-0 h-full w-8" aria-hidden="true">
			<div
				className={`absolute left-3 w-1 bg-ec opacity-55 ${first ? 'top-[1.9rem]' : 'top-0'} ${last ? 'bottom-[calc(100%-1.9rem)]' : 'bottom-0'}`}
			/>
			{joins > 1 && <div className="absolute left-3 top-2 w-4 h-1 bg-ec opacity-55" />}
			<div className="absolute left-[0.45rem] top-[1.45rem] w-[0.9rem] h-[0.9rem] rounded-full border-2 border-base-content bg-base-100" />
		</div>
	);
}
