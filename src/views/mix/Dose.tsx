import { useEffect, useRef, useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { api } from '../api';
import { save } from '../entry/sample';
import { Jug } from './Jug';
import { ReadPh } from './ReadPh';
import { type Advice, CAUTION, type Product, poured, type Tank } from './types';

/** Few, safe, learned steps: the next dose with the pH it leads to, what it did, and the one after. */
export function Dose({
	tank,
	product,
	targetPh,
	onDone,
	onStep,
}: {
	tank: Tank;
	product: Product;
	targetPh: number;
	/** The target is reached. */
	onDone?: ((ph: number) => void) | undefined;
	onStep?:
		| ((step: 'dosed' | 'ph', expected: number | null, measured: number | null, words: string) => void)
		| undefined;
}) {
	const [advice, setAdvice] = useState<Advice | null>(null);
	const [given, setGiven] = useState<{ ml: number; predicted: number; low: number; high: number } | null>(null);
	const [ml, setMl] = useState('');
	const [ph, setPh] = useState('');
	const [told, setTold] = useState('');
	const [problem, setProblem] = useState('');
	const [volume, setVolume] = useState(tank.volumeL === null ? '' : String(tank.volumeL));
	const field = useRef<HTMLInputElement>(null);
	const litres = decimal(volume.trim());

	async function ask() {
		setProblem('');
		try {
			const a = await api<Advice>('/mix/dose', {
				json: {
					station: tank.code,
					product: product.name,
					target_ph: targetPh,
					...(litres !== undefined && litres > 0 ? { volume_l: litres } : {}),
				},
			});
			setAdvice(a);
			if (a.do === 'dose') setMl(poured(a.ml!));
			else if (a.do === 'nothing') onDone?.(a.ph);
		} catch (error) {
			setAdvice(null);
			setProblem((error as Error).message);
		}
	}
	// biome-ignore lint/correctness/useExhaustiveDependencies: another tank, product or target is another question
	useEffect(() => {
		setGiven(null);
		setTold('');
		ask();
	}, [tank.code, product.name, targetPh]);
	useEffect(() => field.current?.focus(), []);

	async function pour() {
		const amount = decimal(ml.trim());
		if (amount === undefined || !(amount > 0) || !advice) return setProblem('How many millilitres were poured?');
		// A thousandfold slip is asked about before it is stored.
		if (amount > 5 * Math.max(advice.ml_to_target ?? 0, 0.01))
			return setProblem(
				`${amount} mL is far more than the whole way takes (${poured(advice.ml_to_target ?? 0)} mL): litres written for millilitres?`,
			);
		try {
			await api('/events', {
				json: {
					station: tank.code,
					kind: product.kind === 'acid' ? 'acid_added' : 'base_added',
					amount,
					unit: 'mL',
					product: product.name,
				},
			});
			onStep?.('dosed', advice.predicted_ph ?? null, null, `${poured(amount)} mL ${product.name}`);
			setGiven({ ml: amount, predicted: advice.predicted_ph!, low: advice.low_ph!, high: advice.high_ph! });
			setPh('');
			setTold('');
			setProblem('');
			setTimeout(() => field.current?.focus(), 50);
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	async function measured() {
		const value = decimal(ph.trim());
		if (value === undefined || !(value >= 0 && value <= 14)) return setProblem('Type the pH that the pen shows.');
		try {
			await save([
				{
					station: tank.code,
					instrument: null,
					values: [{ quantity: 'ph', digits: ph.trim().replace(',', '.'), unit: 'pH' }],
					note: `after ${poured(given!.ml)} mL ${product.name}`,
					at: Date.now(),
					source: 'bench',
				},
			]);
			onStep?.('ph', given!.predicted, value, `pH ${value}`);
			setTold(
				value < given!.low - 0.02 || value > given!.high + 0.02
					? `It went to ${value.toFixed(2)}, outside the ${given!.low.toFixed(2)} to ${given!.high.toFixed(2)} that was expected. Was it mixed? Is the volume right?`
					: `It went to ${value.toFixed(2)}, expected ${given!.predicted.toFixed(2)}.`,
			);
			setGiven(null);
			// What was advised before the dose is no advice after it.
			setAdvice(null);
			await ask();
		} catch (error) {
			setProblem((error as Error).message);
		}
	}

	return (
		<div data-dose={given ? 'waiting' : (advice?.do ?? 'asking')}>
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			{told && (
				<p className="border-l-4 border-secondary pl-3 py-1" data-told aria-live="polite">
					{told}
				</p>
			)}
			{tank.volumeL === null && (
				<label className="block w-40 mb-2">
					<span className="field-label">Litres in it now</span>
					<input
						className="field"
						inputMode="decimal"
						value={volume}
						onChange={(e) => setVolume(e.target.value)}
						onBlur={ask}
					/>
				</label>
			)}
			{given ? (
				<form
					className="flex flex-wrap gap-3 items-end"
					onSubmit={(e) => {
						e.preventDefault();
						measured();
					}}
				>
					<p className="w-full">
						{poured(given.ml)} mL of {product.name} is in. Stir, wait until it has mixed (a bubbler needs minutes), then
						measure. Expected: <strong>{given.predicted.toFixed(2)}</strong>, between {given.low.toFixed(2)} and{' '}
						{given.high.toFixed(2)}.
					</p>
					<label className="block w-32">
						<span className="field-label">pH now</span>
						<input
							ref={field}
							id="dose-ph"
							className="field !text-[1.4rem]"
							inputMode="decimal"
							autoComplete="off"
							value={ph}
							onChange={(e) => setPh(e.target.value)}
						/>
					</label>
					<button type="submit" className="act act-main">
						Enter
					</button>
				</form>
			) : advice?.do === 'dose' ? (
				<form
					className="flex flex-wrap gap-3 items-end"
					onSubmit={(e) => {
						e.preventDefault();
						pour();
					}}
				>
					<p className="w-full text-[1.15rem]">
						From pH {advice.ph.toFixed(2)} to {targetPh}: pour <strong>{poured(advice.ml!)} mL</strong> of{' '}
						{product.name} into {advice.volume_l} L. It should go to <strong>{advice.predicted_ph!.toFixed(2)}</strong>{' '}
						<span className="text-soft">
							({advice.low_ph!.toFixed(2)} to {advice.high_ph!.toFixed(2)}, 95 %)
						</span>
					</p>
					<p className="w-full text-soft">
						{advice.message} The whole way would take about {poured(advice.ml_to_target!)} mL.
						{advice.past.length > 0 && ` Learned from ${advice.past.length} earlier doses here.`}
					</p>
					{advice.changed_factor !== null && (
						<p className="w-full border-l-4 border-warning pl-2" data-changed>
							The last dose acted {advice.changed_factor.toFixed(1)} times as strongly as those before: other water,
							another bottle, or a wrong volume?
						</p>
					)}
					<p className="w-full border-l-4 border-warning pl-2 text-[0.92rem]" data-caution>
						{CAUTION}
					</p>
					<label className="block w-32">
						<span className="field-label">Poured, mL</span>
						<input
							ref={field}
							id="dose-ml"
							className="field !text-[1.4rem]"
							inputMode="decimal"
							autoComplete="off"
							value={ml}
							onChange={(e) => setMl(e.target.value)}
						/>
					</label>
					<button type="submit" className="act act-main">
						It is in
					</button>
				</form>
			) : advice?.do === 'titrate' ? (
				<>
					<p>{advice.message}</p>
					<Jug product={product} onKnown={ask} />
				</>
			) : (
				advice && (
					<div>
						<p className="text-[1.1rem]" data-dose-says>
							{advice.message}
						</p>
						{advice.do === 'refuse' && <ReadPh station={tank.code} note="before a dose" words="" onRead={ask} />}
					</div>
				)
			)}
			{advice && advice.past.length > 0 && (
				<details className="mt-3">
					<summary className="cursor-pointer text-soft min-h-8">what earlier doses did here</summary>
					<div className="overflow-x-auto">
						<table className="text-[0.92rem]">
							<thead>
								<tr>
									<th className="pr-4">when</th>
									<th className="pr-4">mL</th>
									<th className="pr-4">pH before</th>
									<th className="pr-4">pH after</th>
								</tr>
							</thead>
							<tbody>
								{advice.past.slice(-12).map((d) => (
									<tr key={d.time} className="border-t border-line">
										<td className="pr-4">{d.time.slice(0, 10)}</td>
										<td className="pr-4">{d.ml}</td>
										<td className="pr-4">{d.ph_before.toFixed(2)}</td>
										<td className="pr-4">{d.ph_after.toFixed(2)}</td>
									</tr>
								))}
							</tbody>
						</table>
					</div>
				</details>
			)}
		</div>
	);
}
