import { useState } from 'react';
import type { StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import { MG_L_CACO3_PER_MEQ } from '@/core/chem/constants';
import type { Engine } from '@/core/judge/engine';
import { planTopUp } from '@/core/mix/top-up';
import { phAfterTopUp } from '@/core/mix/top-up-ph';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { Choice, Text } from '../setup/fields';
import { usualFeed } from './batch-draft';
import { TankChoice, WaterChoice } from './choices';
import { logEvent } from './log-event';
import { ecShown, ecTyped, ecUnit, litresTyped } from './typed';
import { gainOf, poured } from './words';

const round3 = (v: number): string => String(Number(v.toPrecision(3)));

/** An EC in doubt is not filled in: it is read again. */
const ecOf = (t: Tank | undefined, units: DisplayUnits): string =>
	t?.ecUsCm && !t.ecDoubted ? ecShown(t.ecUsCm, units) : '';

/** What a top-up makes of a tank, and in which parts. */
export function TopUpTool({
	units,
	engine,
	tanks,
	products,
	waters,
	batches,
}: {
	units: DisplayUnits;
	engine: Engine;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	batches: StoredBatch[];
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const [tankCode, setTankCode] = useState(tanks[0]?.code ?? '');
	const [waterCode, setWaterCode] = useState(waters[0]?.code ?? '');
	const [feedName, setFeedName] = useState(usualFeed(products, batches, tanks[0]?.code)?.name ?? '');
	const tank = tanks.find((t) => t.code === tankCode);
	const [now, setNow] = useState(tank?.volumeL ? String(Math.round(tank.volumeL * 0.9)) : '');
	const [add, setAdd] = useState(tank?.volumeL ? String(Math.round(tank.volumeL * 0.1)) : '');
	const [ec, setEc] = useState(ecOf(tank, units));
	const [ph, setPh] = useState(tank?.ph ? tank.ph.toFixed(2) : '');
	const [stirred, setStirred] = useState(true);
	const [said, setSaid] = useState('');
	const water = waters.find((w) => w.code === waterCode);
	const feed = feeds.find((f) => f.name === feedName);
	const target = tank?.ecRange ? (tank.ecRange[0] + tank.ecRange[1]) / 2 : undefined;
	const n = (t: string) => decimal(t.trim());
	const ecNow = ecTyped(ec, units);
	const plan =
		water && ecNow !== undefined
			? planTopUp({
					volumeL: litresTyped(now) ?? 0,
					ecUsCm: ecNow,
					addL: litresTyped(add) ?? 0,
					withEcUsCm: water.ecUsCm,
					capacityL: tank?.volumeL ?? undefined,
					targetEcUsCm: target,
					gainUsCmPerMlL: feed && gainOf(feed),
					stirred,
				})
			: null;
	const phNow = n(ph);
	const inTank = litresTyped(now);
	const adding = litresTyped(add);
	const phComes =
		plan?.ok &&
		water?.ph != null &&
		water.alkalinityMgLCaco3 !== null &&
		phNow !== undefined &&
		phNow >= 3 &&
		phNow <= 10
			? phAfterTopUp({
					volumeL: inTank!,
					ph: phNow,
					ecUsCm: ecNow!,
					addL: adding!,
					water: {
						ph: water.ph,
						alkalinityMeqL: water.alkalinityMgLCaco3 / MG_L_CACO3_PER_MEQ,
						ecUsCm: water.ecUsCm,
					},
				})
			: null;
	const choose = (code: string) => {
		const t = tanks.find((x) => x.code === code);
		setTankCode(code);
		setNow(t?.volumeL ? String(Math.round(t.volumeL * 0.9)) : '');
		setAdd(t?.volumeL ? String(Math.round(t.volumeL * 0.1)) : '');
		setEc(ecOf(t, units));
		setPh(t?.ph ? t.ph.toFixed(2) : '');
	};
	if (waters.length === 0 || tanks.length === 0)
		return <p>A top-up wants a tank and a water whose EC has been read.</p>;
	return (
		<div data-top-up>
			<div className="flex flex-wrap gap-2 items-end">
				<TankChoice tanks={tanks} value={tankCode} onChange={choose} />
				<Text label="litres in it now" width="w-28" mode="decimal" value={now} onChange={setNow} />
				<Text label={`EC now, ${ecUnit(units)}`} width="w-28" mode="decimal" value={ec} onChange={setEc} />
				<Text label="pH now" width="w-20" mode="decimal" value={ph} onChange={setPh} />
				<Text label="litres to add" width="w-28" mode="decimal" value={add} onChange={setAdd} />
				<WaterChoice units={units} waters={waters} value={waterCode} onChange={setWaterCode} />
				{feeds.length > 0 && (
					<Choice
						label="with"
						width="w-40"
						value={feedName}
						options={feeds.map((f) => f.name)}
						onChange={setFeedName}
					/>
				)}
				<label className="flex gap-2 items-center min-h-10">
					<input type="checkbox" checked={stirred} onChange={(e) => setStirred(e.target.checked)} /> pump or stirring
				</label>
			</div>
			<div aria-live="polite" className="mt-3">
				{plan && !plan.ok && <p className="text-error">{problemWords(plan.problem)}</p>}
				{plan?.ok && (
					<>
						<p className="text-[1.15rem]" data-top-up-ec>
							EC comes to <strong>{ecShown(plan.value.ecUsCm, units)}</strong> {ecUnit(units)} in{' '}
							{Math.round(plan.value.volumeL)} L
							{target !== undefined &&
								(plan.value.feedMlEach === null
									? '; how much feed brings it to target is not known before its first batch'
									: plan.value.feedMlEach > 0
										? `; ${poured(plan.value.feedMlEach)} ${feed?.unit ?? 'mL'} of each part of ${feedName} bring it to ${ecShown(target, units)}`
										: `, no feed wanted for ${ecShown(target, units)}`)}
							.
						</p>
						{plan.value.toTarget && (
							<p data-top-up-litres>
								{plan.value.toTarget.drainL > 0.5
									? `To land on ${ecShown(target!, units)} with ${water!.name} alone, drain ${round3(plan.value.toTarget.drainL)} L and add ${round3(plan.value.toTarget.addL)} L.`
									: `${round3(plan.value.toTarget.addL)} L of ${water!.name} alone would land on ${ecShown(target!, units)}.`}{' '}
								{plan.value.toTarget.drainL <= 0.5 && (
									<button
										type="button"
										className="underline cursor-pointer min-h-10 sm:min-h-8"
										onClick={() => setAdd(round3(plan.value.toTarget!.addL))}
									>
										use it
									</button>
								)}
							</p>
						)}
						{phComes ? (
							<p data-top-up-ph>
								pH comes to about <strong>{phComes.ph.toFixed(1)}</strong> ({phComes.low.toFixed(1)} to{' '}
								{phComes.high.toFixed(1)}, by how much phosphate is in it)
								{phComes.aerated - phComes.ph > 0.1 &&
									`, and climbs to about ${phComes.aerated.toFixed(1)} as the carbon dioxide of the new water leaves`}
								.{plan.value.feedMlEach !== null && plan.value.feedMlEach > 0 && ' Feed pulls it down a little.'}
							</p>
						) : (
							<p className="text-soft" data-top-up-ph>
								{water?.alkalinityMgLCaco3 === null || water?.ph == null
									? `What it does to pH is not known: ${water?.name} wants a pH and an alkalinity, by drop kit or laboratory.`
									: 'Give the pH now, and what it does to it is said as well.'}
							</p>
						)}
						{plan.value.parts.length > 1 && (
							<p>
								Roots hang still in it: add it in {plan.value.parts.length} parts of{' '}
								{plan.value.parts[0]!.litres.toPrecision(2)} L.
							</p>
						)}
						<p className="text-soft">
							{plan.value.waitHours >= 1
								? `Wait about ${plan.value.waitHours} hours after each part before judging it: it spikes first and settles slowly.`
								: 'Let it mix a quarter of an hour, then measure EC, then pH.'}
						</p>
						{plan.value.feedMlEach !== null && plan.value.feedMlEach > 0 && (
							<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
								Feed goes in after the water, each part by itself and stirred. Never concentrate on concentrate; gloves
								and eye protection.
							</p>
						)}
						<button
							type="button"
							className="act mt-2"
							onClick={async () => {
								try {
									await logEvent(engine, tankCode, {
										kind: 'water_added',
										amount: adding!,
										unit: 'L',
										product: water!.name,
									});
									setSaid(`Logged: ${round3(adding!)} L of ${water!.name} into ${tank!.name}.`);
								} catch (error) {
									setSaid((error as Error).message);
								}
							}}
						>
							The water is in: log it
						</button>{' '}
						{feed && plan.value.feedMlEach !== null && plan.value.feedMlEach > 0 && (
							<button
								type="button"
								className="act mt-2 !font-normal"
								onClick={async () => {
									try {
										await logEvent(engine, tankCode, {
											kind: 'nutrient_added',
											amount: Number(poured(plan.value.feedMlEach!)),
											unit: feed.unit,
											product: feed.name,
										});
										setSaid(
											`Logged: ${poured(plan.value.feedMlEach!)} ${feed.unit} of each part of ${feed.name} into ${tank!.name}.`,
										);
									} catch (error) {
										setSaid((error as Error).message);
									}
								}}
							>
								The feed is in: log it
							</button>
						)}{' '}
						<span data-top-up-said>{said}</span>
					</>
				)}
			</div>
		</div>
	);
}
