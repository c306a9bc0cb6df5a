import { useCallback, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import { type Waits, wantedWait } from '@/core/judge/waits';
import { decimal, type Quantity } from '@/core/quantity';
import { FIELD, type Settling, settling, TIGHT } from '@/core/reading/settling';
import type { DisplayUnits } from '@/core/reading/site-view';
import { type MeterSample, type Refused, StreamIntake } from '@/core/reading/stream';
import { REFUSED_WORDS } from '@/words/en/reading';
import { addressOf, api } from '../data/client';
import { QUANTITY_HUE, shown, unitLabel } from '../ui/format';
import { SettleCurve } from './SettleCurve';

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

type Act = Call<'POST /meters/:code/act', Contract['POST /meters/:code/act']>['body'];

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
	const intake = useRef(new StreamIntake());
	const [shownNow, setShownNow] = useState<MeterSample | null>(null);
	const [listening, setListening] = useState(!simulated);
	const [lost, setLost] = useState(false);
	const [quiet, setQuiet] = useState<number | null>(null);
	const [refused, setRefused] = useState<Record<Refused, number> | null>(null);
	const [field, setField] = useState(false);
	const [water, setWater] = useState({ temp: '', ph: '', ec: '' });
	const [problem, setProblem] = useState('');

	const begin = useCallback(() => {
		intake.current = new StreamIntake();
		setShownNow(null);
		setRefused(null);
		setQuiet(null);
	}, []);

	useEffect(() => {
		if (!listening) return;
		const source = new EventSource(addressOf('GET /meters/:code/stream', { params: { code: instrument } }));
		source.onopen = () => setLost(false);
		source.onerror = () => setLost(true);
		source.onmessage = (e: MessageEvent<string>) => {
			let raw: unknown = null;
			try {
				raw = JSON.parse(e.data);
			} catch {
				// Left to the intake, which counts it as unreadable.
			}
			const sample = intake.current.take(raw, performance.now());
			if (sample) setShownNow(sample);
			else setRefused({ ...intake.current.refused });
		};
		const timer = setInterval(() => setQuiet(intake.current.quietFor(performance.now())), 1000);
		return () => {
			source.close();
			clearInterval(timer);
		};
	}, [instrument, listening]);

	async function act(body: Act, step?: string) {
		try {
			await api('POST /meters/:code/act', { params: { code: instrument }, body });
			setProblem('');
			if (step) onStep(step);
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	async function dip() {
		const number = (text: string) => (text.trim() === '' ? undefined : decimal(text.trim()));
		const ec = number(water.ec);
		await act(
			{
				do: 'dip',
				station,
				water: {
					ph: number(water.ph),
					ec_us_cm: ec === undefined ? undefined : ec * 1000,
					temp_c: number(water.temp),
				},
			},
			'deep',
		);
		begin();
		setListening(true);
	}

	const verdicts = QUANTITIES.map((q) => {
		const points = intake.current.points(q);
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
			{simulated && (
				<div className="flex flex-wrap gap-1.5 my-1">
					<button type="button" className="act !font-normal" onClick={() => act({ do: 'rinse' }, 'rinse')}>
						Rinse
					</button>
					<button type="button" className="act" data-dip onClick={dip}>
						Dip into {stationName}
					</button>
					<button type="button" className="act !font-normal" onClick={() => act({ do: 'swirl' }, 'swirl')}>
						Swirl
					</button>
					<button
						type="button"
						className="act !font-normal"
						onClick={async () => {
							await act({ do: 'store' });
							setListening(false);
							begin();
						}}
					>
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
			)}
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
