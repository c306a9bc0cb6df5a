import type { KnownWater } from '@/contract/pages';
import { ecAim } from '@/core/mix/batch-course';
import { dilute } from '@/core/mix/dilute';
import { moreFeed } from '@/core/mix/feed/more-feed';
import { planOf } from './batch-plan';
import { CorrectEc, LEAST_DRAIN_L } from './CorrectEc';
import { MeasureHere } from './MeasureHere';
import type { RunStep } from './run-step';
import { ecShown, ecUnit, volumeWithUnit } from './typed';
import { poured, pouredAmount } from './words';

/** EC of a batch: measured, and brought where it should be. */
export function RunEc({
	site,
	engine,
	batch,
	course,
	tank,
	water,
	log,
	busy,
	attempt,
}: RunStep & { water: KnownWater | undefined }) {
	const plan = planOf(batch.plan);
	const mS = (v: number) => ecShown(v, site.units);
	const seen = course.seenEcUsCm;
	const target = ecAim(plan);
	if (seen === null || target === null)
		return (
			<MeasureHere
				key={`ec${batch.log.length}`}
				site={site}
				engine={engine}
				station={batch.station}
				quantity="ec"
				note="batch"
				aim={course.expectedEcUsCm}
				keep={log.reading('ec', course.expectedEcUsCm)}
			>
				<p className="mb-1">
					Measure EC once it has mixed.
					{course.expectedEcUsCm !== null && (
						<>
							{' '}
							Expected: <strong>{mS(course.expectedEcUsCm)}</strong> {ecUnit(site.units)}.
						</>
					)}
				</p>
			</MeasureHere>
		);
	const dilution =
		seen > target && water
			? dilute({
					volumeL: plan.litres,
					ecUsCm: seen,
					targetEcUsCm: target,
					withEcUsCm: water.ecUsCm,
					capacityL: tank.volumeL ? Math.max(tank.volumeL, plan.litres) : undefined,
				})
			: null;
	const more =
		seen < target
			? moreFeed(plan.pours, { waterEcUsCm: plan.waterEcUsCm, seenEcUsCm: seen, targetEcUsCm: target })
			: null;
	const correct = () =>
		attempt(async () => {
			if (dilution?.ok) {
				const [drain, add] = [Math.round(dilution.value.drainL), Math.round(dilution.value.addL)];
				const drains = dilution.value.drainL > LEAST_DRAIN_L;
				await log.did(
					'diluted',
					`${drains ? `${volumeWithUnit(drain, site.units)} drained, ` : ''}${volumeWithUnit(add, site.units)} of ${water!.name} added`,
					{ expected: target, amount: add },
					[
						...(drains ? [{ kind: 'drained', amount: drain, unit: 'L', product: '' } as const] : []),
						{ kind: 'water_added', amount: add, unit: 'L', product: water!.name },
					],
				);
			} else if (more?.ok) {
				const list = more.value.map((p) => ({ ...p, amount: pouredAmount(p.perL * plan.litres) }));
				const words = list.map((p) => `${poured(p.amount)} ${p.unit} ${p.product}${p.bottle && ` ${p.bottle}`}`);
				await log.did(
					'fed',
					`more: ${words.join(', ')}`,
					{ expected: target, amount: list[0]!.amount },
					list.map((p) => ({
						kind: 'nutrient_added',
						amount: p.amount,
						unit: p.unit,
						product: p.product,
						note: p.bottle && `part ${p.bottle}`,
					})),
				);
			}
		});
	return (
		<CorrectEc
			seen={seen}
			target={target}
			dilution={dilution}
			more={more}
			litres={plan.litres}
			water={water?.name ?? ''}
			units={site.units}
			busy={busy}
			onDone={correct}
			onLeave={() => attempt(() => log.did('next', `EC ${mS(seen)} left as it is`))}
		/>
	);
}
