import type { StoredEvent } from '@/contract/events';
import type { StoredReading } from '@/contract/readings';
import { seriesQuantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint as Point } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { amountWords, EVENT_WORDS } from '@/words/en/event';
import { dateTime, QUANTITY_HUE, shown } from '../ui/format';
import { OpensEvent } from './OpensButton';

const WIDTH = 760;
const HEIGHT = 230;
const LEFT = 52;
const BOTTOM = 46;
const TOP = 10;
/** Days drawn before and after what is doubted. */
export const NEIGHBOUR_DAYS = 12;
const DAY = 86_400_000;

/** A doubted reading among its neighbours in time: as wide as each is sure, the target behind, what was poured along the foot. */
export function NeighbourChart({
	reading: r,
	points,
	events,
	site,
}: {
	reading: StoredReading;
	points: readonly Point[];
	events: readonly StoredEvent[];
	site: SiteView;
}) {
	const at = Date.parse(r.time);
	const [from, to] = [at - NEIGHBOUR_DAYS * DAY, Math.min(at + NEIGHBOUR_DAYS * DAY, Math.max(site.now, at) + DAY)];
	const near = points.filter((p) => p.at >= from && p.at <= to);
	const quantity = seriesQuantity(r.quantity);
	const range = site.stations.find((s) => s.info.code === r.station)?.info.ranges[quantity] ?? null;
	const believed = near.filter((p) => ['sound', 'restated'].includes(standingOf({ ...p, restated: p.was })));
	const values = [
		...believed.flatMap((p) => [p.value - 2 * p.u, p.value + 2 * p.u]),
		...(range ? [range.low, range.high] : []),
		...(r.suggested === null ? [] : [r.suggested]),
	].filter(Number.isFinite);
	const all = values.length > 0 ? values : [r.canonical_value * 0.9, r.canonical_value * 1.1];
	// What is doubted may widen the scale, but not so far that its neighbours become a line.
	const own = Math.max(...all) - Math.min(...all) || 1;
	const fits = r.canonical_value > Math.min(...all) - own && r.canonical_value < Math.max(...all) + own;
	const scale = fits ? [...all, r.canonical_value] : all;
	const [least, most] = [Math.min(...scale), Math.max(...scale)];
	const room = (most - least || 1) * 0.08;
	const x = (t: number) => LEFT + ((t - from) / (to - from)) * (WIDTH - LEFT - 10);
	// What lies beyond the scale stands at its edge, in a strip that is kept free for it.
	const [top, foot] = [fits || r.canonical_value < least ? TOP : TOP + 30, fits || r.canonical_value > most ? 0 : 30];
	const y = (v: number) =>
		v > most + 3 * room || v < least - 3 * room
			? v > most
				? TOP + 8
				: HEIGHT - BOTTOM - 8
			: top + ((most + room - v) / (most - least + 2 * room)) * (HEIGHT - top - foot - BOTTOM);
	const hue = QUANTITY_HUE[quantity] ?? 'var(--color-base-content)';
	const days = Array.from({ length: 5 }, (_, i) => from + ((i + 0.5) * (to - from)) / 5);
	const marks = range ? [range.low, range.high] : [least, most];
	const beyond = fits ? '' : r.canonical_value > most ? '↑ ' : '↓ ';
	const label =
		x(at) > WIDTH - 120
			? { x: x(at) - 14, textAnchor: 'end' as const }
			: { x: x(at) + 14, textAnchor: 'start' as const };
	return (
		<figure className="my-2 max-w-[760px]" data-neighbours={near.length}>
			<svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full h-auto" role="img" aria-labelledby={`nb-${r.id}`}>
				<title id={`nb-${r.id}`}>
					{`${shown(r.quantity, r.canonical_value, site.units)} among ${near.length} neighbours, ${near.length === 0 ? 'none of them' : `${shown(r.quantity, Math.min(...near.map((p) => p.value)), site.units)} to ${shown(r.quantity, Math.max(...near.map((p) => p.value)), site.units)}`}`}
				</title>
				{range && (
					<rect
						x={LEFT}
						y={y(range.high)}
						width={WIDTH - LEFT - 10}
						height={Math.max(y(range.low) - y(range.high), 1)}
						fill="var(--zone)"
					/>
				)}
				<line x1={LEFT} x2={WIDTH - 10} y1={HEIGHT - BOTTOM} y2={HEIGHT - BOTTOM} stroke="var(--color-base-300)" />
				{marks.map((v) => (
					<text key={v} x={LEFT - 6} y={y(v) + 5} textAnchor="end" fontSize="15" fill="var(--soft)">
						{shown(r.quantity, v, site.units)}
					</text>
				))}
				{days.map((t) => (
					<text key={t} x={x(t)} y={HEIGHT - 6} textAnchor="middle" fontSize="15" fill="var(--soft)">
						{dateTime(t, site.timezone).split(',')[0]}
					</text>
				))}
				{near.map((p) => {
					const standing = standingOf({ ...p, restated: p.was });
					const mine = p.id === r.id;
					return (
						<g key={`${p.at} ${p.id}`}>
							<line
								x1={x(p.at)}
								x2={x(p.at)}
								y1={y(p.value - 1.96 * p.u)}
								y2={y(p.value + 1.96 * p.u)}
								stroke={hue}
								strokeOpacity={mine ? 1 : 0.45}
								strokeWidth={mine ? 7 : 4}
							/>
							{standing === 'sound' || standing === 'restated' ? (
								<circle cx={x(p.at)} cy={y(p.value)} r={3.5} fill={hue} />
							) : (
								<circle
									cx={x(p.at)}
									cy={y(p.value)}
									r={mine ? 8 : 5}
									fill="var(--color-base-100)"
									stroke={hue}
									strokeWidth={2.5}
								/>
							)}
						</g>
					);
				})}
				{!near.some((p) => p.id === r.id) && (
					<circle
						cx={x(at)}
						cy={y(r.canonical_value)}
						r={8}
						fill="var(--color-base-100)"
						stroke={hue}
						strokeWidth={2.5}
					/>
				)}
				{r.suggested !== null && (
					<>
						<line
							x1={x(at)}
							x2={x(at)}
							y1={y(r.canonical_value)}
							y2={y(r.suggested)}
							stroke={hue}
							strokeDasharray="3 4"
						/>
						<circle cx={x(at)} cy={y(r.suggested)} r={5} fill={hue} />
						<text {...label} y={y(r.suggested) + 5} fontSize="15" fill="currentColor">
							{`${shown(r.quantity, r.suggested, site.units)}?`}
						</text>
					</>
				)}
				<text {...label} y={y(r.canonical_value) + 5} fontSize="16" fontWeight="bold" fill="currentColor">
					{`${beyond}${shown(r.quantity, r.canonical_value, site.units)}`}
				</text>
				{events.map((e) => (
					<path
						key={e.id}
						d={`M${x(Date.parse(e.time))} ${HEIGHT - BOTTOM + 4} l5 10 h-10 z`}
						fill="var(--color-base-content)"
					>
						<title>{`${dateTime(Date.parse(e.time), site.timezone)}: ${EVENT_WORDS[e.kind][0]} ${e.amount ?? ''} ${e.unit} ${e.product}`}</title>
					</path>
				))}
			</svg>
			{events.length > 0 && (
				<figcaption className="text-soft text-[0.85rem]">
					▲{' '}
					{events.slice(0, 4).map((e, i) => (
						<span key={e.id}>
							{i > 0 && ' · '}
							<OpensEvent id={e.id}>
								{`${dateTime(Date.parse(e.time), site.timezone)} ${EVENT_WORDS[e.kind][0]} ${e.amount === null ? '' : `${amountWords(e.amount)} ${e.unit}`}`.trim()}
							</OpensEvent>
						</span>
					))}
					{events.length > 4 && ` · and ${events.length - 4} more`}
				</figcaption>
			)}
		</figure>
	);
}
