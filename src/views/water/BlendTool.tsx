import { useState } from 'react';
import type { WaterSource } from '@/contract/pages';
import { decimal, toCanonical } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { blend } from '@/core/water/blend';
import { problemWords } from '@/words/en/problem';
import { understandField } from '../bench/understand';
import { ecShown, ecUnit, litresTyped, volumeName, volumeShown, volumeWithUnit } from '../mix/typed';
import { Text } from '../ui/controls';
import { shownWithUnit } from '../ui/format';

/** Parts of the sources that reach a target, what it costs, and how much pure water it saves. */
export function BlendTool({
	sources,
	site,
	targetEcUsCm,
}: {
	sources: WaterSource[];
	site: SiteView;
	targetEcUsCm: number;
}) {
	const usable = sources.filter((s) => s.newest.ec);
	const [used, setUsed] = useState<Record<string, boolean>>(Object.fromEntries(usable.map((s, i) => [s.code, i < 3])));
	const [cost, setCost] = useState<Record<string, string>>({});
	const [target, setTarget] = useState(ecShown(targetEcUsCm / 5, site.units));
	const [alkalinity, setAlkalinity] = useState('');
	const [sodium, setSodium] = useState('');
	const [chloride, setChloride] = useState('');
	const [litres, setLitres] = useState('1000');
	// EC, or TDS with its scale: 0.4, 400uS, 65ppm500.
	const aim = understandField('ec', target, null, site.units, null);
	const aimUsCm = aim.state === 'value' ? toCanonical(Number(aim.digits), aim.unit) : undefined;
	const volumeL = Math.max(litresTyped(litres, site.units) ?? 1, 0.001);
	const chosen = usable.filter((s) => used[s.code]);
	const n = (text: string) => (text.trim() === '' ? undefined : decimal(text.trim()));
	const result =
		chosen.length === 0 || aim.state === 'problem'
			? null
			: blend(
					chosen.map((s) => ({
						ecUsCm: s.newest.ec!.value,
						alkalinityMgLCaco3: s.alkalinityMgLCaco3 ?? undefined,
						ph: s.newest.ph?.value,
						tempC: s.newest.temp?.value,
						ions: s.report?.ions,
						costPerL: n(cost[s.code] ?? ''),
					})),
					{
						ecUsCm: aimUsCm,
						alkalinityMgLCaco3: n(alkalinity),
						naMgL: n(sodium),
						clMgL: n(chloride),
					},
					volumeL,
				);
	const purest = chosen.reduce<WaterSource | null>(
		(a, b) => (!a || b.newest.ec!.value < a.newest.ec!.value ? b : a),
		null,
	);
	return (
		<section className="note-rule" data-blend-tool>
			<h2>Blend to a target</h2>
			<div className="flex flex-wrap gap-2 items-end">
				<Text label={`EC, ${ecUnit(site.units)}, or TDS`} width="w-32" value={target} onChange={setTarget} />
				<Text label="alkalinity, mg/L CaCO3" width="w-36" mode="decimal" value={alkalinity} onChange={setAlkalinity} />
				<Text label="sodium, mg/L" width="w-24" mode="decimal" value={sodium} onChange={setSodium} />
				<Text label="chloride, mg/L" width="w-24" mode="decimal" value={chloride} onChange={setChloride} />
				<Text label={volumeName(site.units)} width="w-20" mode="decimal" value={litres} onChange={setLitres} />
			</div>
			{aim.state === 'problem' && <p className="text-error">{aim.message}</p>}
			<div className="overflow-x-auto">
				<table className="mt-2">
					<thead>
						<tr>
							<th>use</th>
							<th className="pr-4">EC</th>
							<th className="pr-4">cost of a litre</th>
							<th>{volumeName(site.units)}</th>
						</tr>
					</thead>
					<tbody>
						{usable.map((s) => {
							const at = chosen.indexOf(s);
							return (
								<tr key={s.code} className="border-t border-line">
									<td className="pr-4 py-1">
										<label className="flex gap-2 items-center min-h-10">
											<input
												type="checkbox"
												checked={used[s.code] ?? false}
												onChange={(e) => setUsed({ ...used, [s.code]: e.target.checked })}
											/>
											{s.name}
										</label>
									</td>
									<td className="pr-4">{shownWithUnit('ec', s.newest.ec!.value, site.units)}</td>
									<td className="pr-4">
										<input
											className="field !w-20"
											inputMode="decimal"
											aria-label={`Cost of a litre of ${s.name}`}
											value={cost[s.code] ?? ''}
											onChange={(e) => setCost({ ...cost, [s.code]: e.target.value })}
										/>
									</td>
									<td className="font-bold">
										{result?.ok && at >= 0
											? `${volumeShown(result.value.volumesL[at]!, site.units)} (${Math.round(100 * result.value.fractions[at]!)} %)`
											: ''}
									</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
			<div aria-live="polite" className="mt-2" data-blend-answer={result?.ok ? 'yes' : 'no'}>
				{result === null ? (
					<p className="text-soft">Choose the waters to blend.</p>
				) : !result.ok ? (
					<p className="text-error">{problemWords(result.problem)}</p>
				) : (
					<p>
						EC {shownWithUnit('ec', result.value.ecUsCm, site.units)}
						{result.value.alkalinityMgLCaco3 !== null &&
							`, alkalinity ${Math.round(result.value.alkalinityMgLCaco3)} mg/L CaCO3`}
						{result.value.ph !== null && `, pH near ${result.value.ph.toFixed(1)} by its carbonate`}
						{result.value.costPerL !== null && `, ${(result.value.costPerL * volumeL).toFixed(2)} in all`}.{' '}
						{purest && chosen.length > 1 && (
							<span className="text-soft">
								Against {purest.name} alone it saves{' '}
								{volumeWithUnit(volumeL - result.value.volumesL[chosen.indexOf(purest)]!, site.units)} of it.
							</span>
						)}
					</p>
				)}
			</div>
		</section>
	);
}
