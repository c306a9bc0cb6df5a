import type { Probe } from '@/contract/probes';
import { TOLERANCE } from '@/core/probe/drift';
import { amount, offWords } from './words';

/** The tolerance as the quiet zone, what a reading is off by today as the smear. */
export function Trust({ probe }: { probe: Probe }) {
	const tolerance = TOLERANCE[probe.quantity];
	const half = 1.96 * probe.u_today;
	const off = probe.error_today;
	const reach = Math.max(2.2 * tolerance, 1.05 * (half + Math.abs(off)));
	const x = (v: number) => 2 + ((v + reach) / (2 * reach)) * 276;
	const words = offWords(probe);
	return (
		<div className="flex items-center gap-3">
			<svg
				viewBox="0 0 280 24"
				className="w-full max-w-[280px]"
				role="img"
				aria-label={`${words} today, tolerance ±${amount(probe.quantity, tolerance)}`}
			>
				<rect x={x(-tolerance)} y="4" width={x(tolerance) - x(-tolerance)} height="14" fill="var(--zone)" />
				<line x1="2" x2="278" y1="18" y2="18" stroke="var(--color-base-300)" />
				<rect
					x={x(off - half)}
					y="6"
					width={Math.max(x(off + half) - x(off - half), 2)}
					height="11"
					fill={`var(--q-${probe.quantity})`}
					opacity={Math.abs(off) + half > tolerance ? 0.4 : 0.75}
				/>
				<line x1={x(0)} x2={x(0)} y1="2" y2="19" stroke="var(--soft)" strokeWidth="0.8" />
				<line x1={x(off)} x2={x(off)} y1="2" y2="19" stroke="var(--color-base-content)" strokeWidth="1.6" />
				{[-tolerance, tolerance].map((v) => (
					<line key={v} x1={x(v)} x2={x(v)} y1="2" y2="20" stroke="var(--soft)" strokeWidth="0.8" />
				))}
			</svg>
			<span className={probe.error_told ? 'font-bold text-[0.9rem] leading-tight' : 'font-bold whitespace-nowrap'}>
				{words}
			</span>
		</div>
	);
}
