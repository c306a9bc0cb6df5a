import type { SettlePoint } from '@/core/reading/settling';

const W = 220;
const H = 54;

/** The display over the seconds since the probe went in, with the settled value and its uncertainty as a band. */
export function SettleCurve({
	points,
	settled,
	hue,
	label,
}: {
	points: readonly SettlePoint[];
	settled: { value: number; u: number } | null;
	hue: string;
	label: string;
}) {
	if (points.length < 2) return null;
	const last = points.at(-1)!;
	const first = points[0]!;
	const values = points.map((p) => p.value);
	const low = Math.min(...values);
	const high = Math.max(...values);
	const room = Math.max((high - low) * 0.1, Math.abs(last.value) * 0.002, 1e-9);
	const x = (s: number) => ((s - first.s) / Math.max(last.s - first.s, 1e-9)) * W;
	const y = (v: number) => H - ((v - low + room) / (high - low + 2 * room)) * H;
	const every = Math.max(1, Math.floor(points.length / 300));
	const line = points.filter((_, i) => i % every === 0 || i === points.length - 1);
	return (
		<svg viewBox={`0 0 ${W} ${H}`} width={W} height={H} role="img" aria-label={label} className="max-w-full">
			<rect x="0" y="0" width={W} height={H} fill="var(--zone)" opacity="0.5" />
			{settled && (
				<rect
					x="0"
					width={W}
					y={y(settled.value + 2 * settled.u)}
					height={Math.max(y(settled.value - 2 * settled.u) - y(settled.value + 2 * settled.u), 1.5)}
					fill={hue}
					opacity="0.35"
				/>
			)}
			<polyline
				points={line.map((p) => `${x(p.s).toFixed(1)},${y(p.value).toFixed(1)}`).join(' ')}
				fill="none"
				stroke={hue}
				strokeWidth="1.8"
			/>
		</svg>
	);
}
