import type { ProbeStory, ToldCalibration } from '@/contract/probes';
import { day } from './words';

/** The calibrations of a probe, newest first, each with its way out and back. */
export function Calibrations({
	story,
	zone,
	onWithdraw: withdraw,
}: {
	story: ProbeStory;
	zone: string;
	onWithdraw: (c: ToldCalibration) => void;
}) {
	const q = story.quantity;
	return (
		<div className="note-rule">
			<h2>Calibrations</h2>
			<ul className="text-[0.9rem]">
				{[...story.calibrations]
					.reverse()
					.slice(0, 8)
					.map((c) => (
						<li
							key={c.id}
							className={`border-b border-line py-1 ${c.withdrawn ? 'text-soft line-through' : ''}`}
							data-calibration={c.id}
						>
							<span className="flex justify-between gap-2">
								<span>
									{day(c.time, zone)} · {c.kind}
								</span>
								<button type="button" className="underline cursor-pointer" onClick={() => withdraw(c)}>
									{c.withdrawn ? 'take back' : 'withdraw'}
								</button>
							</span>
							<span className="block">
								{c.points
									.map((p) => `${p.as_found ?? '–'} in ${Number(p.nominal.toFixed(q === 'ph' ? 2 : 0))}`)
									.join(', ')}
								{c.verdict ? ` · ${c.verdict}` : ''}
							</span>
						</li>
					))}
			</ul>
		</div>
	);
}
