import { useEffect, useState } from 'react';
import type { Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { Choice, Text } from '../setup/fields';
import { MeasureHere } from './MeasureHere';
import { MixingWait } from './MixingWait';
import { useDose } from './use-dose';
import { cautionOf, poured } from './words';

const USUAL_PH = 5.8;

/** Several tanks at once, a row of buckets with different plants: a dose each, and what each did. */
export function TankTable({
	site,
	engine,
	tanks,
	products,
}: {
	site: SiteView;
	engine: Engine;
	tanks: Tank[];
	products: Product[];
}) {
	const changers = products.filter((p) => p.kind !== 'nutrient');
	const [chosen, setChosen] = useState(changers[0]?.name ?? '');
	const [target, setTarget] = useState('');
	const product = changers.find((p) => p.name === chosen);
	const goal = decimal(target.trim());
	if (!product) return <p>Add an acid or a base under products first.</p>;
	return (
		<div data-tank-table>
			<div className="flex flex-wrap gap-2 items-end">
				<Choice label="with" width="w-40" value={chosen} options={changers.map((a) => a.name)} onChange={setChosen} />
				<Text
					label="target pH (else into each range)"
					width="w-72"
					mode="decimal"
					value={target}
					onChange={setTarget}
				/>
			</div>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-2" data-caution>
				{cautionOf(product.kind)}
			</p>
			<div className="overflow-x-auto">
				<table className="w-full">
					<thead>
						<tr>
							<th className="pr-5">tank</th>
							<th className="pr-5">litres</th>
							<th className="pr-5">pH now</th>
							<th className="pr-5">to</th>
							<th className="pr-5">should go to</th>
							<th className="pr-5">pour, mL</th>
							<th className="pr-5">what it did</th>
						</tr>
					</thead>
					<tbody>
						{tanks.map((t) => (
							<TankRow
								key={`${t.code}${product.name}`}
								site={site}
								engine={engine}
								tank={t}
								product={product}
								leaveInRange={goal === undefined && t.phRange !== null}
								targetPh={
									goal !== undefined && goal >= 3 && goal <= 10
										? goal
										: t.phRange
											? (t.phRange[0] + t.phRange[1]) / 2
											: USUAL_PH
								}
							/>
						))}
					</tbody>
				</table>
			</div>
		</div>
	);
}

function TankRow({
	site,
	engine,
	tank,
	product,
	targetPh,
	leaveInRange,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	product: Product;
	targetPh: number;
	/** No target was typed: what is in its range is left alone. */
	leaveInRange: boolean;
}) {
	const [ml, setMl] = useState('');
	const [reading, setReading] = useState(false);
	const [litres, setLitres] = useState('');
	const { advice, given, told, problem, ask, pour, measured } = useDose(
		engine,
		tank,
		product,
		targetPh,
		tank.volumeL ?? decimal(litres.trim()),
		undefined,
		leaveInRange,
	);
	useEffect(() => {
		if (advice?.do === 'dose') setMl(poured(advice.ml!));
	}, [advice]);
	const says = problem || (advice && advice.do !== 'dose' ? advice.message : '');
	return (
		<tr
			className="border-t border-line align-top"
			data-tank={tank.code}
			data-does={given ? 'waiting' : (advice?.do ?? '')}
		>
			<th scope="row" className="!text-base-content !text-[1rem] py-1.5 pr-5">
				{tank.name}
			</th>
			<td className="pr-5 py-1.5">
				{tank.volumeL ?? (
					<input
						className="field !w-20"
						inputMode="decimal"
						aria-label={`Litres in ${tank.name}`}
						value={litres}
						onChange={(e) => setLitres(e.target.value)}
						onBlur={ask}
					/>
				)}
			</td>
			<td className="pr-5 py-1.5">{(advice?.ph ?? tank.ph)?.toFixed(2) ?? '–'}</td>
			<td className="pr-5 py-1.5">{targetPh.toFixed(1)}</td>
			{given || reading ? (
				<td colSpan={2} className="pr-5 py-1.5">
					{given && (
						<p className="text-[0.92rem]">
							{poured(given.ml)} mL is in: {given.predicted.toFixed(2)} expected, {given.low.toFixed(2)} to{' '}
							{given.high.toFixed(2)}.
						</p>
					)}
					{given && <MixingWait mixedAt={given.mixedAt} />}
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
				</td>
			) : advice?.do === 'dose' ? (
				<>
					<td className="pr-5 py-1.5">
						{advice.predicted_ph!.toFixed(2)}{' '}
						<span className="text-soft text-[0.9rem]">
							{advice.low_ph!.toFixed(2)} to {advice.high_ph!.toFixed(2)}, {advice.past.length} known
						</span>
					</td>
					<td className="pr-5 py-1.5">
						<form
							className="flex gap-2"
							onSubmit={(e) => {
								e.preventDefault();
								pour(ml);
							}}
						>
							<input
								className="field !w-24 font-bold"
								inputMode="decimal"
								aria-label={`Poured into ${tank.name}, mL`}
								value={ml}
								onChange={(e) => setMl(e.target.value)}
							/>
							<button type="submit" className="act">
								In
							</button>
						</form>
					</td>
				</>
			) : (
				<td colSpan={2} className="pr-5 py-1.5">
					{says}{' '}
					{(advice?.do === 'refuse' ||
						advice?.do === 'wait' ||
						(problem && (tank.volumeL !== null || litres !== ''))) && (
						<button
							type="button"
							className="underline cursor-pointer min-h-10 sm:min-h-8"
							onClick={() => setReading(true)}
						>
							read {tank.name}
						</button>
					)}
				</td>
			)}
			<td className="pr-5 py-1.5">
				{told}
				{problem && advice?.do === 'dose' && <span className="text-error">{problem}</span>}
			</td>
		</tr>
	);
}
