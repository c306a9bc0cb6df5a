import { useState } from 'react';
import type { Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import { ML_PER_DROP, readJug } from '@/core/mix/jug';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { api } from '../data/client';
import { litresTyped } from './typed';
import { cautionOf } from './words';

const W = 340;
const H = 170;
const LEFT = 34;
const FOOT = 30;

/** Drops against pH in a jug, drawn as it goes: it gives the strength of a product whose label says nothing. */
export function Jug({
	product,
	tank,
	units,
	onKnown,
}: {
	product: Product;
	tank: Tank;
	units: DisplayUnits;
	onKnown: () => void;
}) {
	const [litres, setLitres] = useState('1 L');
	const [steps, setSteps] = useState<{ ml: number; ph: number }[]>([]);
	const [drops, setDrops] = useState('0');
	const [ph, setPh] = useState('');
	const [problem, setProblem] = useState('');
	const l = litresTyped(litres, units) ?? 1;
	const result = steps.length > 1 ? readJug(steps, l) : null;
	const most = Math.max(...steps.map((s) => s.ml), 0.1);
	const phs = steps.map((s) => s.ph);
	const [low, high] = [Math.min(...phs, 14) - 0.1, Math.max(...phs, 0) + 0.1];
	const x = (ml: number) => LEFT + 10 + (ml / most) * (W - LEFT - 20);
	const y = (v: number) => H - FOOT - 8 - ((v - low) / (high - low)) * (H - FOOT - 16);
	return (
		<div className="border-t border-line mt-2 pt-2" data-jug={steps.length}>
			<h2>
				Jug: {product.name}, drop by drop into water of {tank.name}
			</h2>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1">{cautionOf(product.kind)}</p>
			<form
				className="flex flex-wrap gap-2 items-end"
				onSubmit={(e) => {
					e.preventDefault();
					const d = decimal(drops.trim());
					const value = decimal(ph.trim());
					if (d === undefined || d < 0 || value === undefined || !(value >= 0 && value <= 14))
						return setProblem('Type the drops given in all, and the pH after stirring.');
					setProblem('');
					setSteps(
						[...steps.filter((s) => s.ml !== d * ML_PER_DROP), { ml: d * ML_PER_DROP, ph: value }].sort(
							(a, b) => a.ml - b.ml,
						),
					);
					setDrops(String(d + 2));
					setPh('');
				}}
			>
				<label className="block w-24">
					<span className="field-label">water in it</span>
					<input className="field" inputMode="decimal" value={litres} onChange={(e) => setLitres(e.target.value)} />
				</label>
				<label className="block w-28">
					<span className="field-label">drops in all</span>
					<input
						className="field"
						id="jug-drops"
						inputMode="decimal"
						value={drops}
						onChange={(e) => setDrops(e.target.value)}
					/>
				</label>
				<label className="block w-24">
					<span className="field-label">pH</span>
					<input
						className="field"
						id="jug-ph"
						inputMode="decimal"
						autoComplete="off"
						value={ph}
						onChange={(e) => setPh(e.target.value)}
					/>
				</label>
				<button type="submit" className="act !font-normal">
					Note
				</button>
			</form>
			<p className="text-soft text-[0.85rem]">
				A drop counts as 0.05 mL, an estimate; a pipette is better. Begin with 0 drops.
			</p>
			{steps.length > 0 && (
				<svg
					viewBox={`0 0 ${W} ${H}`}
					width={W}
					height={H}
					className="max-w-full"
					role="img"
					aria-label="pH against drops"
				>
					<rect x={LEFT} width={W - LEFT} height={H - FOOT} fill="var(--zone)" opacity="0.5" />
					{[low + 0.1, (low + high) / 2, high - 0.1].map((v) => (
						<text key={v} x={LEFT - 4} y={y(v) + 4} textAnchor="end" fontSize="11" fill="currentColor">
							{v.toFixed(1)}
						</text>
					))}
					{steps.map((s) => (
						<text key={s.ml} x={x(s.ml)} y={H - FOOT + 13} textAnchor="middle" fontSize="11" fill="currentColor">
							{Math.round(s.ml / ML_PER_DROP)}
						</text>
					))}
					<text x={(W + LEFT) / 2} y={H - 3} textAnchor="middle" fontSize="11" fill="currentColor">
						drops in all
					</text>
					<polyline
						fill="none"
						stroke="var(--q-ph)"
						strokeWidth="2"
						points={steps.map((s) => `${x(s.ml)},${y(s.ph)}`).join(' ')}
					/>
					{steps.map((s) => (
						<circle key={s.ml} cx={x(s.ml)} cy={y(s.ph)} r="3.5" fill="var(--q-ph)">
							<title>{`${s.ml} mL: pH ${s.ph}`}</title>
						</circle>
					))}
				</svg>
			)}
			{(problem || (result && !result.ok)) && (
				<p className="text-error">{problem || (result && !result.ok ? problemWords(result.problem) : '')}</p>
			)}
			{result?.ok && (
				<p>
					About <strong>{result.value.strengthMeqMl.toFixed(2)} meq in a millilitre</strong>; this solution holds{' '}
					{result.value.bufferMeqLPh.toFixed(2)} meq/L for each pH.{' '}
					<button
						type="button"
						className="act"
						onClick={async () => {
							try {
								await api('POST /mix/jug', { body: { product: product.name, station: tank.code, litres: l, steps } });
								onKnown();
							} catch (error) {
								setProblem((error as Error).message);
							}
						}}
					>
						Keep this strength
					</button>
				</p>
			)}
		</div>
	);
}
