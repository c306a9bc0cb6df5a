import type { Baseline } from '@/core/water/source-chart';

export interface ControlPoint {
	at: number;
	value: number;
	rules: string[];
	segment: number;
}

const H = 190;
const LEFT = 54;
const BOTTOM = 22;

/** Individuals against the limits of their level: mean, limits, and the points that break a run rule. */
export function ControlChart({
	points,
	segments,
	width = 640,
	format,
	day,
	hue,
	label,
}: {
	points: readonly ControlPoint[];
	segments: readonly Baseline[];
	width?: number;
	format: (v: number) => string;
	day: (at: number) => string;
	hue: string;
	label: string;
}) {
	if (points.length < 2) return <p className="text-soft">Two readings and more make a chart.</p>;
	const values = [...points.map((p) => p.value), ...segments.flatMap((s) => [s.low, s.high])];
	const room = (Math.max(...values) - Math.min(...values)) * 0.06 || 1;
	const [low, high] = [Math.min(...values) - room, Math.max(...values) + room];
	const [from, to] = [points[0]!.at, points.at(-1)!.at];
	const x = (at: number) => LEFT + ((at - from) / Math.max(to - from, 1)) * (width - LEFT - 10);
	const y = (v: number) => H - BOTTOM - ((v - low) / (high - low)) * (H - BOTTOM - 8);
	const spans = segments.flatMap((s, i) => {
		const own = points.filter((p) => p.segment === i);
		return own.length === 0 ? [] : [{ s, a: x(own[0]!.at), b: Math.max(x(own.at(-1)!.at), x(own[0]!.at) + 6) }];
	});
	const ticks = [low + (high - low) * 0.1, (low + high) / 2, high - (high - low) * 0.1];
	return (
		<svg viewBox={`0 0 ${width} ${H}`} className="w-full max-w-full" role="img" aria-label={label}>
			{spans.map(({ s, a, b }) => (
				<g key={a}>
					<rect x={a} y={y(s.high)} width={b - a} height={Math.max(y(s.low) - y(s.high), 1)} fill="var(--zone)" />
					<line x1={a} x2={b} y1={y(s.mean)} y2={y(s.mean)} stroke="currentColor" strokeWidth="1" opacity="0.6" />
				</g>
			))}
			<polyline
				points={points.map((p) => `${x(p.at).toFixed(1)},${y(p.value).toFixed(1)}`).join(' ')}
				fill="none"
				stroke={hue}
				strokeWidth="1.3"
			/>
			{points.map((p) =>
				p.rules.length > 0 ? (
					<g key={p.at}>
						<rect
							x={x(p.at) - 4.5}
							y={y(p.value) - 4.5}
							width="9"
							height="9"
							fill="var(--color-base-100)"
							stroke="currentColor"
							strokeWidth="1.6"
						>
							<title>{`${day(p.at)}: ${format(p.value)}`}</title>
						</rect>
					</g>
				) : (
					<circle key={p.at} cx={x(p.at)} cy={y(p.value)} r="2.6" fill={hue}>
						<title>{`${day(p.at)}: ${format(p.value)}`}</title>
					</circle>
				),
			)}
			{ticks.map((t) => (
				<text key={t} x={LEFT - 6} y={y(t) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
					{format(t)}
				</text>
			))}
			{[from, (from + to) / 2, to].map((t, i) => (
				<text
					key={t}
					x={x(t)}
					y={H - 5}
					textAnchor={i === 0 ? 'start' : i === 2 ? 'end' : 'middle'}
					fontSize="11"
					fill="var(--soft)"
				>
					{day(t)}
				</text>
			))}
		</svg>
	);
}
