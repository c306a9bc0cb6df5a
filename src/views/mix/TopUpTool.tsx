import { useState } from 'react';
import type { Tank } from '@/contract/pages';
import { MG_L_CACO3_PER_MEQ } from '@/core/chem/constants';
import { planTopUp } from '@/core/mix/top-up';
import { phAfterTopUp } from '@/core/mix/top-up-ph';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { Choice, Text } from '../ui/controls';
import { usualFeed } from './batch-draft';
import { TankChoice, WaterChoice } from './choices';
import { logEvent, type Pour } from './log-event';
import { TopUpSays } from './TopUpSays';
import { ecShown, ecTyped, ecUnit, litresTyped, volumeName, volumeShown, volumeWithUnit } from './typed';
import { type MixThings, useMix } from './use-mix';
import { gainOf, poured } from './words';

/** An EC in doubt, or from before something was poured, is not filled in: it is read again. */
const ecOf = (t: Tank | undefined, units: DisplayUnits): string =>
	t?.ecUsCm && !t.ecDoubted && !t.ecOvertaken ? ecShown(t.ecUsCm, units) : '';

/** By the dipstick where it was read; else a little less than it holds. */
const inItNow = (t: Tank | undefined, units: DisplayUnits): string =>
	t?.litresNow
		? volumeShown(Math.round(t.litresNow.litres), units)
		: t?.volumeL
			? volumeShown(Math.round(t.volumeL * 0.9), units)
			: '';

/** What a top-up makes of a tank, and in which parts. */
export function TopUpTool(things: MixThings) {
	const { units, engine, tanks, products, waters, batches } = useMix(things);
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const [tankCode, setTankCode] = useState(tanks[0]?.code ?? '');
	const [waterCode, setWaterCode] = useState(waters[0]?.code ?? '');
	const [feedName, setFeedName] = useState(usualFeed(products, batches, tanks[0]?.code)?.name ?? '');
	const tank = tanks.find((t) => t.code === tankCode);
	const [now, setNow] = useState(inItNow(tank, units));
	const [add, setAdd] = useState(tank?.volumeL ? volumeShown(Math.round(tank.volumeL * 0.1), units) : '');
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
					volumeL: litresTyped(now, units) ?? 0,
					ecUsCm: ecNow,
					addL: litresTyped(add, units) ?? 0,
					withEcUsCm: water.ecUsCm,
					capacityL: tank?.volumeL ?? undefined,
					targetEcUsCm: target,
					gainUsCmPerMlL: feed && gainOf(feed),
					stirred,
				})
			: null;
	const phNow = n(ph);
	const inTank = litresTyped(now, units);
	const adding = litresTyped(add, units);
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
		setNow(inItNow(t, units));
		setAdd(t?.volumeL ? volumeShown(Math.round(t.volumeL * 0.1), units) : '');
		setEc(ecOf(t, units));
		setPh(t?.ph ? t.ph.toFixed(2) : '');
	};
	async function log(pour: Pour, words: string) {
		try {
			await logEvent(engine, tankCode, pour);
			setSaid(`Logged: ${words} into ${tank!.name}.`);
		} catch (error) {
			setSaid((error as Error).message);
		}
	}
	if (waters.length === 0 || tanks.length === 0)
		return <p>A top-up wants a tank and a water whose EC has been read.</p>;
	return (
		<div data-top-up>
			<div className="flex flex-wrap gap-2 items-end">
				<TankChoice tanks={tanks} value={tankCode} onChange={choose} />
				<Text label={`in it now, ${volumeName(units)}`} width="w-28" mode="decimal" value={now} onChange={setNow} />
				<Text label={`EC now, ${ecUnit(units)}`} width="w-28" mode="decimal" value={ec} onChange={setEc} />
				<Text label="pH now" width="w-20" mode="decimal" value={ph} onChange={setPh} />
				<Text label={`to add, ${volumeName(units)}`} width="w-28" mode="decimal" value={add} onChange={setAdd} />
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
						<TopUpSays
							plan={plan.value}
							target={target}
							feed={feed}
							water={water!}
							phComes={phComes}
							units={units}
							onLitres={setAdd}
						/>
						<button
							type="button"
							className="act mt-2"
							onClick={() =>
								log(
									{ kind: 'water_added', amount: adding!, unit: 'L', product: water!.name },
									`${volumeWithUnit(adding!, units)} of ${water!.name}`,
								)
							}
						>
							The water is in: log it
						</button>{' '}
						{feed && plan.value.feedMlEach !== null && plan.value.feedMlEach > 0 && (
							<button
								type="button"
								className="act mt-2 !font-normal"
								onClick={() =>
									log(
										{
											kind: 'nutrient_added',
											amount: Number(poured(plan.value.feedMlEach!)),
											unit: feed.unit,
											product: feed.name,
										},
										`${poured(plan.value.feedMlEach!)} ${feed.unit} of each part of ${feed.name}`,
									)
								}
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
