import { useState } from 'react';
import type { Act } from './use-live-meter';

/** What the hand does with a simulated meter, and what water, meter and pace are. */
export function SimulatedMeter({
	stationName,
	act,
	onDip,
	onStore,
}: {
	stationName: string;
	act: (body: Act, step?: string) => Promise<void>;
	onDip: (water: Record<'temp' | 'ph' | 'ec', string>) => void;
	onStore: () => void;
}) {
	const [water, setWater] = useState({ temp: '', ph: '', ec: '' });
	return (
		<div className="flex flex-wrap gap-1.5 my-1">
			<button type="button" className="act !font-normal" onClick={() => act({ do: 'rinse' }, 'rinse')}>
				Rinse
			</button>
			<button type="button" className="act" data-dip onClick={() => onDip(water)}>
				Dip into {stationName}
			</button>
			<button type="button" className="act !font-normal" onClick={() => act({ do: 'swirl' }, 'swirl')}>
				Swirl
			</button>
			<button type="button" className="act !font-normal" onClick={onStore}>
				Back into storage
			</button>
			<details className="w-full text-soft">
				<summary className="cursor-pointer min-h-8">the water, the meter and its pace</summary>
				<div className="flex flex-wrap gap-2 items-end py-1 text-base-content">
					{(
						[
							['ph', 'pH of the water'],
							['ec', 'EC, mS/cm'],
							['temp', '°C'],
						] as const
					).map(([q, label]) => (
						<label key={q} className="block w-28">
							<span className="field-label">{label}</span>
							<input
								className="field"
								inputMode="decimal"
								id={`sim-${q}`}
								placeholder="as expected"
								value={water[q]}
								onChange={(e) => setWater({ ...water, [q]: e.target.value })}
							/>
						</label>
					))}
					<label className="flex gap-2 items-center min-h-10">
						<input
							type="checkbox"
							defaultChecked
							id="sim-compensates"
							onChange={(e) => act({ do: 'set', compensates: e.target.checked })}
						/>{' '}
						compensates EC
					</label>
					<label className="block w-28">
						<span className="field-label">Pace</span>
						<select
							className="field"
							id="sim-speed"
							onChange={(e) => act({ do: 'set', speed: Number(e.target.value) })}
						>
							<option value="1">as it is</option>
							<option value="10">10 × faster</option>
							<option value="60">60 × faster</option>
						</select>
					</label>
				</div>
			</details>
		</div>
	);
}
