import type { ApexOptions } from 'apexcharts';
import { useMemo } from 'react';
import type { Advice } from '@/contract/doses';
import { ApexFigure } from '../ui/ApexFigure';
import { useTheme } from '../ui/theme';

const MOST_DOSES = 12;
const THIS_VISIT_MS = 3 * 3_600_000;
/** Further below the target the band says nothing that matters. */
const DEPTH_PH = 1.2;

/** Millilitres per litre at which the curve has come to a pH, straight between its points. */
function along(curve: Advice['curve'], ph: number): number | null {
	for (let i = 1; i < curve.length; i++) {
		const [a, b] = [curve[i - 1]!, curve[i]!];
		if ((ph - a.ph) * (ph - b.ph) <= 0 && a.ph !== b.ph)
			return a.ml_per_l + ((ph - a.ph) / (b.ph - a.ph)) * (b.ml_per_l - a.ml_per_l);
	}
	return null;
}

/** What the product does here now by all that is known, with its 95 % band, and what each dose of this visit truly did. */
export function ResponseChart({ advice, targetPh, product }: { advice: Advice; targetPh: number; product: string }) {
	const theme = useTheme();
	const { series, options } = useMemo(() => {
		const { curve } = advice;
		const round = (v: number, n: number) => Number(v.toFixed(n));
		// A tank that was left to itself is another one: only the doses of this visit lie on its curve.
		const since = Date.parse(advice.ph_time ?? new Date().toISOString()) - THIS_VISIT_MS;
		const own = advice.past.filter((d) => !d.other_water && Date.parse(d.time) >= since);
		const doses = own.slice(-MOST_DOSES).flatMap((d) => {
			// Each dose begins on the curve, at its own pH: what counts is how steeply it went from there.
			const from = along(curve, d.ph_before);
			return from === null
				? []
				: [
						{
							name: `${d.time.slice(0, 10)}, ${d.ml} mL`,
							type: 'line',
							data: [
								{ x: round(from, 4), y: d.ph_before },
								{ x: round(from + d.ml / d.litres, 4), y: d.ph_after },
							],
						},
					];
		});
		const seen = [...curve.flatMap((c) => [c.low_ph, c.high_ph]), ...doses.flatMap((d) => d.data.map((p) => p.y))];
		const hue = theme['--q-ph'] ?? '#000';
		const series = [
			{
				name: '95 % of cases',
				type: 'rangeArea',
				data: curve.map((c) => ({ x: round(c.ml_per_l, 4), y: [round(c.low_ph, 2), round(c.high_ph, 2)] })),
			},
			{ name: 'expected', type: 'line', data: curve.map((c) => ({ x: round(c.ml_per_l, 4), y: round(c.ph, 2) })) },
			...doses,
		];
		const options: ApexOptions = {
			colors: [hue, hue, ...doses.map(() => theme['--color-base-content'] ?? '#000')],
			fill: { opacity: [0.16, 1, ...doses.map(() => 1)] },
			stroke: { width: [0, 2, ...doses.map(() => 1.4)], dashArray: [0, 0, ...doses.map(() => 3)] },
			markers: { size: [0, 0, ...doses.map(() => 3)], strokeWidth: 0 },
			grid: { padding: { left: 8 } },
			xaxis: {
				type: 'numeric',
				tickAmount: 6,
				// Strong products move pH by tenths of a millilitre.
				decimalsInFloat: 4,
				title: { text: `${product}, mL for each litre`, style: { fontWeight: 400 } },
				labels: { formatter: (v) => String(Number(Number(v).toPrecision(2))) },
			},
			yaxis: {
				min: Math.floor(5 * Math.max(Math.min(...seen, targetPh - 0.1), targetPh - DEPTH_PH)) / 5,
				max: Math.ceil(5 * Math.min(Math.max(...seen, targetPh + 0.1), Math.max(advice.ph, targetPh) + DEPTH_PH)) / 5,
				stepSize: 0.4,
				title: { text: 'pH', style: { fontWeight: 400 } },
				labels: { formatter: (v) => v.toFixed(1), minWidth: 36 },
			},
			annotations: {
				yaxis: [
					{
						y: targetPh - 0.1,
						y2: targetPh + 0.1,
						fillColor: theme['--zone'] ?? '#eee',
						opacity: 0.35,
						borderColor: 'transparent',
						label: {
							text: 'target',
							borderColor: 'transparent',
							style: { background: 'transparent', color: theme['--soft'] ?? '#555' },
						},
					},
				],
			},
			tooltip: { shared: false },
		};
		return { series, options };
	}, [advice, theme, targetPh, product]);
	if (advice.curve.length === 0) return null;
	return (
		<ApexFigure
			name="response"
			label={`pH against millilitres of ${product} for each litre; the doses stand in the table below.`}
			type="rangeArea"
			height={240}
			options={options}
			series={series as ApexOptions['series']}
			drawnAnew={`${series.length}${advice.ph}`}
		/>
	);
}
