import { useState } from 'react';
import { type Waits, wantedWait } from '@/core/judge/waits';
import type { Quantity } from '@/core/quantity';
import { FIELD, type Settling, settling, TIGHT } from '@/core/reading/settling';
import type { DisplayUnits } from '@/core/reading/site-view';
import type { Refused } from '@/core/reading/stream';
import { REFUSED_WORDS } from '@/words/en/reading';
import { QUANTITY_HUE, shown, unitLabel } from '../ui/format';
import { SettleCurve } from './SettleCurve';
import { SimulatedMeter } from './SimulatedMeter';
import { useLiveMeter } from './use-live-meter';

const QUANTITIES = ['ph', 'ec', 'temp'] as const;
const NAMES = { ph: 'pH', ec: 'EC', temp: 'Temperature' } as const;
const STATES: Record<Settling['state'], string> = {
	'too-few': 'just begun',
	moving: 'still moving',
	noisy: 'noisy',
	bubble: 'a bubble? Swirl',
	settled: 'settled',
};

export interface Taken {
	texts: Partial<Record<Quantity, string>>;
	waitS: number;
}

/** A meter that speaks by itself: what it shows, whether it has settled, its curve, and the values to take over. */
export function LiveMeter({
	instrument,
	name,
	simulated,
	station,
	stationName,
	ecHereUsCm,
	waits,
	units,
	onStep,
	onTake,
}: {
	instrument: string;
	name: string;
	simulated: boolean;
	station: string;
	stationName: string;
	ecHereUsCm: number | null;
	waits: Waits;
	units: DisplayUnits;
	onStep: (code: string) => void;
	onTake: (taken: Taken) => void;
}) {
	const m = useLiveMeter({ instrument, simulated, station, onStep });
	const { shownNow, lost, quiet, refused, listening, problem } = m;
	const [field, setField] = useState(false);
	const verdicts = QUANTITIES.map((q) => {
		const points = m.points(q);
		return { q, points, verdict: settling(q, points, field ? FIELD : TIGHT) };
	});
	const seconds = shownNow ? Math.round(shownNow.s) : 0;
	const wanted = wantedWait('ph', ecHereUsCm, waits) ?? 30;
	// In water of few minerals the digits stand long before they are right.
	const longEnough = wanted <= 60 || seconds >= wanted;
	const settled = longEnough && verdicts.every((v) => v.points.length === 0 || v.verdict.state === 'settled');
	const digits = (q: 'ph' | 'ec' | 'temp', value: number) =>
		q === 'ec' ? ecText(value, units) : shown(q, value, units);
	function take() {
		const texts: Taken['texts'] = {};
		for (const { q, points, verdict } of verdicts) {
			const last = points.at(-1);
			if (last) texts[q] = digits(q, verdict.state === 'settled' ? verdict.value : last.value);
		}
		onTake({ texts, waitS: seconds });
	}
	const wrong = refused ? (Object.entries(refused) as [Refused, number][]).filter(([, n]) => n > 0) : [];

	return (
		<section className="border-t border-line pt-2 mt-3" aria-label={`${name}, live`} data-live={lost ? 'lost' : 'open'}>
			<h2>
				{name}, live
				{simulated && <span className="font-normal text-soft"> · simulated: nothing it shows is measured</span>}
			</h2>
			{simulated && <SimulatedMeter stationName={stationName} act={m.act} onDip={m.dip} onStore={m.store} />}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			{lost && listening && (
				<p role="alert" className="text-error">
					The connection to {name} is lost; it is tried again. What it showed is still here.
				</p>
			)}
			{quiet !== null && !lost && (
				<p role="alert" className="text-warning" data-quiet>
					{name} has said nothing for {Math.round(quiet / 1000)} s. Is it switched off, or out of reach?
				</p>
			)}
			{wrong.length > 0 && (
				<p className="text-warning text-[0.9rem]" data-refused>
					Left out: {wrong.map(([why, n]) => `${n} ${REFUSED_WORDS[why]}`).join('; ')}.
				</p>
			)}
			{shownNow && (
				<div data-live-seconds={seconds}>
					<p className="flex flex-wrap gap-x-4 items-baseline">
						<strong className="text-[1.2rem]">{seconds} s</strong>
						<span className="text-soft">
							{seconds < wanted
								? `this water wants about ${wanted} s${wanted > 60 ? ': few minerals, it wanders' : ''}`
								: 'long enough for this water'}
						</span>
						{shownNow.compensated === false && (
							<span className="text-warning">the meter says that its compensation is off</span>
						)}
					</p>
					<div className="grid sm:grid-cols-3 gap-3 my-1">
						{verdicts.map(({ q, points, verdict }) => {
							const last = points.at(-1);
							if (!last) return null;
							return (
								<div key={q} data-settling={`${q} ${verdict.state}`}>
									<p>
										{NAMES[q]} <strong className="text-[1.3rem]">{digits(q, last.value)}</strong>{' '}
										<span className="text-soft text-[0.85rem]">
											{q === 'ph' && verdict.state === 'settled' && !longEnough
												? 'stands, but wait'
												: STATES[verdict.state]}
											{verdict.state === 'moving' &&
												` ${verdict.perMinute > 0 ? '+' : '−'}${digitsOf(Math.abs(q === 'ec' && units.ec === 'mS/cm' ? verdict.perMinute / 1000 : verdict.perMinute))} a minute`}
											{verdict.state === 'settled' &&
												` ± ${digitsOf(1.96 * (q === 'ec' && units.ec === 'mS/cm' ? verdict.u / 1000 : verdict.u))}`}
										</span>
									</p>
									<SettleCurve
										points={points}
										settled={verdict.state === 'settled' ? verdict : null}
										hue={QUANTITY_HUE[q]!}
										label={`${NAMES[q]} over ${seconds} seconds, ${STATES[verdict.state]}`}
									/>
								</div>
							);
						})}
					</div>
					<div className="flex flex-wrap gap-3 items-center">
						<button type="button" className={`act ${settled ? '' : '!font-normal'}`} onClick={take} data-take>
							{settled ? 'Take the settled values' : 'Take what it shows now'}
						</button>
						<label className="flex gap-2 items-center min-h-10">
							<input type="checkbox" checked={field} onChange={(e) => setField(e.target.checked)} /> field criterion
							(±0.1 pH, ±3 %)
						</label>
						<span className="text-soft text-[0.85rem]">{unitLabel(units.ec)}</span>
					</div>
				</div>
			)}
		</section>
	);
}

const digitsOf = (v: number): string => (v === 0 ? '0' : v < 0.01 ? 'under 0.01' : v.toPrecision(2));

/** EC as it would be typed into Bench, with the unit where the field would take it for another. */
const ecText = (usCm: number, units: DisplayUnits): string =>
	units.ec === 'mS/cm' ? (usCm / 1000).toFixed(3) : shown('ec', usCm, units);
