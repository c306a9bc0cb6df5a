import { useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { api } from '../api';
import { Choice, Text } from '../setup/fields';
import { type Advice, CAUTION, type Product, poured, type Tank } from './types';

/** Several tanks at once: a dose each, by what each has done before. */
export function TankTable({ tanks, products }: { tanks: Tank[]; products: Product[] }) {
	const acids = products.filter((p) => p.kind !== 'nutrient');
	const [product, setProduct] = useState(acids[0]?.name ?? '');
	const [target, setTarget] = useState('');
	const [advice, setAdvice] = useState<Record<string, Advice | { do: 'refuse'; message: string }>>({});
	const ask = async () => {
		const goal = decimal(target.trim());
		const answers = await Promise.all(
			tanks.map(async (t) => {
				const middle = t.phRange ? (t.phRange[0] + t.phRange[1]) / 2 : 5.8;
				try {
					return [
						t.code,
						await api<Advice>('/mix/dose', { json: { station: t.code, product, target_ph: goal ?? middle } }),
					] as const;
				} catch (error) {
					return [t.code, { do: 'refuse', message: (error as Error).message }] as const;
				}
			}),
		);
		setAdvice(Object.fromEntries(answers));
	};
	if (acids.length === 0) return <p>Add an acid or a base under Products first.</p>;
	return (
		<div data-tank-table>
			<form
				className="flex flex-wrap gap-2 items-end"
				onSubmit={(e) => {
					e.preventDefault();
					ask();
				}}
			>
				<Choice label="with" width="w-40" value={product} options={acids.map((a) => a.name)} onChange={setProduct} />
				<Text
					label="target pH (else the middle of each range)"
					width="w-72"
					mode="decimal"
					value={target}
					onChange={setTarget}
				/>
				<button type="submit" className="act act-main">
					A dose for each
				</button>
			</form>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-2">{CAUTION}</p>
			<div className="overflow-x-auto">
				<table className="w-full max-w-[60rem]">
					<thead>
						<tr>
							<th className="pr-5">tank</th>
							<th className="pr-5">litres</th>
							<th className="pr-5">pH now</th>
							<th className="pr-5">pour, mL</th>
							<th className="pr-5">should go to</th>
							<th className="pr-5">doses known</th>
						</tr>
					</thead>
					<tbody>
						{tanks.map((t) => {
							const a = advice[t.code];
							const dose = a && a.do === 'dose' ? (a as Advice) : null;
							return (
								<tr key={t.code} className="border-t border-line align-top">
									<th scope="row" className="!text-base-content !text-[1rem] py-1">
										{t.name}
									</th>
									<td className="pr-5 py-1">{t.volumeL ?? '–'}</td>
									<td className="pr-5 py-1">{t.ph?.toFixed(2) ?? '–'}</td>
									<td className="font-bold pr-5 py-1">{dose ? poured(dose.ml!) : ''}</td>
									<td className="pr-5 py-1">
										{dose
											? `${dose.predicted_ph!.toFixed(2)} (${dose.low_ph!.toFixed(2)} to ${dose.high_ph!.toFixed(2)})`
											: (a?.message ?? '')}
									</td>
									<td className="pr-5 py-1">{dose ? dose.past.length : ''}</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
		</div>
	);
}
