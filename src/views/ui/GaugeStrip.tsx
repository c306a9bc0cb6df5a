import type { Quantity } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import type { Standing } from '@/core/trust/standing';
import { QUANTITY_HUE, shown, shownWithUnit } from './format';

/**
 * A reading as a smear, not a dot: the target range as a quiet zone, the value as a mark as wide as its 95 %
 * uncertainty. A hairline is a reading to trust; a wide smear is not. A restated value keeps its old place hollow,
 * tied to the new one.
 */
export interface GaugeStripProps {
	quantity: Quantity;
	value: number;
	/** Standard uncertainty, canonical. */
	u: number;
	range: { low: number; high: number } | null;
	standing: Standing;
	units: DisplayUnits;
	/** The original value, where it was restated. */
	was?: number | null;
	width?: number;
	ends?: boolean;
}

const PLAIN_HUE = 'var(--color-base-content)';
const HEIGHT = 30;
const TOP = 4;
const BASE = 18;

/** A tenth of a pixel is nothing to the eye, and digits are to a page of hundreds. */
const tenths = (v: number, of = 10): number => Math.round(v * of) / of;

const hatchOf = (quantity: Quantity): string => `hatch-${quantity in QUANTITY_HUE ? quantity : 'other'}`;
/** The hatching of doubtful marks by quantity: once a page, for all its strips. */
export function Hatches() {
	return (
		<svg width="0" height="0" className="absolute" aria-hidden="true">
			<defs>
				{Object.entries({ ...QUANTITY_HUE, other: PLAIN_HUE }).map(([name, hue]) => (
					<pattern
						key={name}
						id={`hatch-${name}`}
						width="5"
						height="5"
						patternUnits="userSpaceOnUse"
						patternTransform="rotate(45)"
					>
						<rect width="2.4" height="5" fill={hue} />
					</pattern>
				))}
			</defs>
		</svg>
	);
}

/** The part of the axis that is drawn: the range and some room, or the value's own neighbourhood. */
function axis(p: GaugeStripProps): [number, number] {
	const values = [p.value, ...(p.was == null ? [] : [p.was])];
	if (!p.range) {
		const room = Math.max(6 * p.u, Math.abs(p.value) * 0.5, 0.5);
		return [p.value - room, p.value + room];
	}
	const width = p.range.high - p.range.low;
	let low = p.range.low - width * 0.9;
	let high = p.range.high + width * 0.9;
	if (p.quantity !== 'temp') low = Math.max(low, 0);
	for (const v of values) {
		// A value somewhat outside still has its place; one far outside is shown at the end, with an arrow.
		if (v > high && v < high + width) high = v + width * 0.1;
		if (v < low && v > low - width) low = v - width * 0.1;
	}
	return [low, high];
}

export function GaugeStrip(p: GaugeStripProps) {
	const W = p.width ?? 190;
	const [low, high] = axis(p);
	const x = (v: number) => tenths(Math.min(Math.max(((v - low) / (high - low)) * (W - 4) + 2, 2), W - 2));
	const hue = QUANTITY_HUE[p.quantity] ?? PLAIN_HUE;
	const half = 1.96 * p.u;
	const left = x(p.value - half);
	const right = Math.max(x(p.value + half), left + 2);
	const beyond = p.value > high ? 1 : p.value < low ? -1 : 0;
	const solid = half / (high - low);
	const says = `${shownWithUnit(p.quantity, p.value, p.units)} ± ${shown(p.quantity, half, p.units)}, ${p.standing}${
		p.range ? `, range ${shown(p.quantity, p.range.low, p.units)} to ${shown(p.quantity, p.range.high, p.units)}` : ''
	}${p.was == null ? '' : `, read as ${shown(p.quantity, p.was, p.units)}`}`;
	const doubted = p.standing === 'doubtful' || p.standing === 'bad';
	return (
		<svg
			width={W}
			viewBox={`0 0 ${W} ${p.ends ? HEIGHT + 6 : HEIGHT - 6}`}
			role="img"
			className="block max-w-full h-auto"
		>
			<title>{says}</title>
			{p.range && (
				<rect
					x={x(p.range.low)}
					y={TOP}
					width={tenths(Math.max(x(p.range.high) - x(p.range.low), 1))}
					height={BASE - TOP}
					fill="var(--zone)"
				/>
			)}
			<line x1="2" x2={W - 2} y1={BASE} y2={BASE} stroke="var(--color-base-300)" />
			{p.range &&
				[p.range.low, p.range.high].map((v) => (
					<g key={v}>
						<line x1={x(v)} x2={x(v)} y1={TOP - 2} y2={BASE + 2} stroke="var(--soft)" strokeWidth="0.8" />
						{p.ends && (
							<text
								x={x(v)}
								y={BASE + 13}
								fontSize="9.5"
								textAnchor={x(v) < 14 ? 'start' : x(v) > W - 14 ? 'end' : 'middle'}
								fill="var(--soft)"
							>
								{shown(p.quantity, v, p.units)}
							</text>
						)}
					</g>
				))}
			{p.was != null && (
				<g stroke={hue} fill="none">
					<path d={`M${x(p.value)} ${TOP - 1}H${x(p.was)}`} strokeWidth="1.2" />
					<rect x={x(p.was) - 4} y={TOP + 2} width="8" height={BASE - TOP - 4} strokeDasharray="2 1.5" />
				</g>
			)}
			{beyond === 0 ? (
				<>
					<rect
						x={left}
						y={TOP + 2}
						width={tenths(right - left)}
						height={BASE - TOP - 3}
						fill={doubted ? `url(#${hatchOf(p.quantity)})` : hue}
						opacity={doubted ? 0.9 : tenths(Math.max(0.3, 0.85 - solid * 2.2), 100)}
					/>
					<line
						x1={x(p.value)}
						x2={x(p.value)}
						y1={TOP - 2}
						y2={BASE + 1}
						stroke="var(--color-base-content)"
						strokeWidth="1.6"
					/>
				</>
			) : (
				<path
					d={beyond > 0 ? `M${W - 11} ${TOP + 1}l8 6l-8 6z` : `M11 ${TOP + 1}l-8 6l8 6z`}
					fill={doubted ? 'none' : hue}
					stroke={p.standing === 'bad' ? 'var(--color-error)' : hue}
					strokeWidth="1.5"
				/>
			)}
		</svg>
	);
}
