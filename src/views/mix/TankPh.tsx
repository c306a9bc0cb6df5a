import { useEffect, useState } from 'react';
import type { Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import type { SiteView } from '@/core/reading/site-view';
import { Choice } from '../ui/controls';
import { MeasureHere } from './MeasureHere';
import { MixingWait } from './MixingWait';
import { useDose } from './use-dose';
import { poured } from './words';

const USUAL_PH = 5.8;

/** pH of one tank of several, each with its own product: left alone in its range, else one step, its time to mix, and the second reading. */
export function TankPh({
	site,
	engine,
	tank,
	volumeL,
	changers,
	targetPh,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	volumeL: number | undefined;
	changers: Product[];
	/** Typed for all; else each goes into its own range. */
	targetPh: number | undefined;
}) {
	const middle = tank.phRange ? (tank.phRange[0] + tank.phRange[1]) / 2 : USUAL_PH;
	const goal = targetPh ?? middle;
	const [chosen, setChosen] = useState(() => {
		const wanted = (tank.ph ?? goal) < (targetPh ?? tank.phRange?.[0] ?? goal) ? 'base' : 'acid';
		return (changers.find((p) => p.kind === wanted) ?? changers[0])?.name ?? '';
	});
	const product = changers.find((p) => p.name === chosen);
	if (!product) return <p className="text-soft">pH: add an acid or a base under products first.</p>;
	return (
		<PhSteps
			key={product.name}
			site={site}
			engine={engine}
			tank={tank}
			volumeL={volumeL}
			product={product}
			goal={goal}
			leaveInRange={targetPh === undefined && tank.phRange !== null}
			choice={
				changers.length > 1 ? (
					<Choice label="with" width="w-40" value={chosen} options={changers.map((p) => p.name)} onChange={setChosen} />
				) : null
			}
		/>
	);
}

function PhSteps({
	site,
	engine,
	tank,
	volumeL,
	product,
	goal,
	leaveInRange,
	choice,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	volumeL: number | undefined;
	product: Product;
	goal: number;
	leaveInRange: boolean;
	choice: React.ReactNode;
}) {
	const [ml, setMl] = useState('');
	const [reading, setReading] = useState(false);
	const { advice, asked, given, told, problem, ask, pour, measured } = useDose(
		engine,
		tank,
		product,
		goal,
		volumeL,
		undefined,
		leaveInRange,
	);
	useEffect(() => {
		if (advice?.do === 'dose') setMl(poured(advice.ml!));
	}, [advice]);
	const ph = advice?.ph ?? tank.ph;
	const says = problem || (advice && advice.do !== 'dose' ? advice.message : '');
	const mayRead =
		advice?.do === 'refuse' || advice?.do === 'wait' || (problem !== '' && volumeL !== undefined && !advice);
	return (
		<div data-does={given ? 'waiting' : (advice?.do ?? '')}>
			<p>
				pH {ph?.toFixed(2) ?? 'not read yet'}
				<span className="text-soft">
					{tank.phRange ? `, range ${tank.phRange[0]} to ${tank.phRange[1]}` : `, to ${goal.toFixed(1)}`}
				</span>
			</p>
			{told && (
				<p className="border-l-4 border-secondary pl-2" data-told>
					{told}
				</p>
			)}
			{given || reading ? (
				<div className="no-print">
					{given && (
						<>
							<p className="text-[0.92rem]">
								{poured(given.ml)} mL is in: {given.predicted.toFixed(2)} expected, {given.low.toFixed(2)} to{' '}
								{given.high.toFixed(2)}.
							</p>
							<MixingWait mixedAt={given.mixedAt} />
						</>
					)}
					<MeasureHere
						site={site}
						engine={engine}
						station={tank.code}
						quantity="ph"
						note={given ? `after ${poured(given.ml)} mL ${product.name}` : 'before a dose'}
						onRead={async (m) => {
							setReading(false);
							await measured(m);
						}}
					/>
				</div>
			) : advice?.do === 'dose' ? (
				<form
					className="flex flex-wrap gap-2 items-end"
					onSubmit={(e) => {
						e.preventDefault();
						pour(ml);
					}}
				>
					<p className="w-full">
						<strong>
							{poured(advice.ml!)} mL of {product.name}
						</strong>
						; it should go to {advice.predicted_ph!.toFixed(2)}{' '}
						<span className="text-soft">
							({advice.low_ph!.toFixed(2)} to {advice.high_ph!.toFixed(2)}, {advice.past.length} known)
						</span>
						<span className="hidden print:inline"> pH after: ________ at ________</span>
					</p>
					<span className="no-print">{choice}</span>
					<label className="block w-24 no-print">
						<span className="field-label">poured, mL</span>
						<input
							className="field font-bold"
							inputMode="decimal"
							aria-label={`Poured into ${tank.name}, mL`}
							value={ml}
							onChange={(e) => setMl(e.target.value)}
						/>
					</label>
					<button type="submit" className="act no-print">
						In
					</button>
				</form>
			) : (
				<div>
					<p>{says}</p>
					{advice?.do === 'wait' && (
						<MixingWait key={advice.wait_minutes} mixedAt={asked + (advice.wait_minutes ?? 0) * 60_000} />
					)}
					<div className="flex flex-wrap gap-3 items-end no-print">
						{(advice?.do === 'titrate' || mayRead) && choice}
						{mayRead && (
							<button type="button" className="underline cursor-pointer min-h-11" onClick={() => setReading(true)}>
								read {tank.name}
							</button>
						)}
						{problem && volumeL !== undefined && (
							<button type="button" className="underline cursor-pointer min-h-11" onClick={ask}>
								ask again
							</button>
						)}
					</div>
				</div>
			)}
			{problem && advice?.do === 'dose' && <span className="text-error">{problem}</span>}
		</div>
	);
}
