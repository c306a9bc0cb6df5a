import { useEffect, useRef, useState } from 'react';
import type { Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import type { SiteView } from '@/core/reading/site-view';
import { Afterwards } from './Afterwards';
import type { BatchLog } from './batch-log';
import { Jug } from './Jug';
import { MeasureHere } from './MeasureHere';
import { MixingWait } from './MixingWait';
import { PastDoses } from './PastDoses';
import { ResponseChart } from './ResponseChart';
import { litresTyped, volumeName, volumeShown, volumeWithUnit } from './typed';
import { useDose } from './use-dose';
import { cautionOf, poured, STAND_IN_WORDS } from './words';

/** Few, safe, learned steps: the next dose with the pH it leads to, what it did, and the one after. */
export function Dose({
	site,
	engine,
	tank,
	product,
	targetPh,
	batch,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	product: Product;
	targetPh: number;
	/** The batch that it is a step of. */
	batch?: BatchLog | undefined;
}) {
	const [ml, setMl] = useState('');
	const [volume, setVolume] = useState(tank.volumeL === null ? '' : volumeShown(tank.volumeL, site.units));
	const field = useRef<HTMLInputElement>(null);
	const { advice, asked, given, told, problem, ask, pour, measured } = useDose(
		engine,
		tank,
		product,
		targetPh,
		litresTyped(volume, site.units),
		batch,
	);
	useEffect(() => {
		if (advice?.do !== 'dose' || given) return;
		setMl(poured(advice.ml!));
		field.current?.focus();
	}, [advice, given]);
	const before = advice?.past.filter((d) => d.other_water).length ?? 0;

	return (
		<div
			className="lg:grid lg:grid-cols-[minmax(0,7fr)_minmax(0,6fr)] lg:gap-x-10"
			data-dose={given ? 'waiting' : (advice?.do ?? 'asking')}
		>
			<div>
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
						<span className="field-label">In it now, {volumeName(site.units)}</span>
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
					<MeasureHere
						site={site}
						engine={engine}
						station={tank.code}
						quantity="ph"
						note={`after ${poured(given.ml)} mL ${product.name}`}
						keep={batch?.reading('ph', given.predicted)}
						onRead={measured}
					>
						<p>
							{poured(given.ml)} mL of {product.name} is in. Expected: <strong>{given.predicted.toFixed(2)}</strong>,
							between {given.low.toFixed(2)} and {given.high.toFixed(2)}.
						</p>
						<MixingWait mixedAt={given.mixedAt} />
					</MeasureHere>
				) : advice?.do === 'dose' ? (
					<form
						className="flex flex-wrap gap-3 items-end"
						onSubmit={(e) => {
							e.preventDefault();
							pour(ml);
						}}
					>
						<p className="w-full text-[1.15rem]">
							From pH {advice.ph.toFixed(2)} to {targetPh.toFixed(Number.isInteger(targetPh * 10) ? 1 : 2)}: pour{' '}
							<strong>{poured(advice.ml!)} mL</strong> of {product.name} into{' '}
							{volumeWithUnit(advice.volume_l, site.units)}. It should go to{' '}
							<strong>{advice.predicted_ph!.toFixed(2)}</strong>{' '}
							<span className="text-soft">
								({advice.low_ph!.toFixed(2)} to {advice.high_ph!.toFixed(2)}, 95 %)
							</span>
						</p>
						<p className="w-full text-soft">
							{advice.message} The whole way would take about {poured(advice.ml_to_target!)} mL.
							{advice.past.length > before &&
								` Learned from ${advice.past.length - before} earlier ${advice.past.length - before === 1 ? 'dose' : 'doses'} here${advice.past.some((d) => d.jug) ? ', those in the jug among them' : ''}.`}
							{advice.same_start &&
								` On ${advice.same_start.time.slice(0, 10)}, from the same start, ${poured(advice.same_start.ml)} mL brought it to ${advice.same_start.ph_after.toFixed(2)}.`}
							{before > 0 && ` ${before} more were in another water and do not count.`}
						</p>
						{advice.changed_factor !== null && (
							<p className="w-full border-l-4 border-warning pl-2" data-changed>
								The last dose went {advice.changed_factor.toFixed(1)} times as far as it should: other water, another
								bottle, or a wrong volume?
							</p>
						)}
						<Afterwards advice={advice} />
						{product.bottle.map((w) => (
							<p key={w} className="w-full border-l-4 border-warning pl-2" data-bottle>
								{product.name}: {w}
							</p>
						))}
						<p className="w-full border-l-4 border-warning pl-2 text-[0.92rem]" data-caution>
							{cautionOf(product.kind)} {STAND_IN_WORDS[product.chemical] ?? ''}
						</p>
						<label className="block w-32">
							<span className="field-label">Poured, mL</span>
							<input
								ref={field}
								id="dose-ml"
								className="field !text-[1.5rem] !min-h-12"
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
						<Jug product={product} tank={tank} units={site.units} onKnown={ask} />
					</>
				) : (
					<div>
						{advice && (
							<p className="text-[1.1rem]" data-dose-says>
								{advice.message}
							</p>
						)}
						{advice?.do === 'wait' && (
							<MixingWait key={advice.wait_minutes} mixedAt={asked + (advice.wait_minutes ?? 0) * 60_000} />
						)}
						{(advice?.do === 'refuse' || advice?.do === 'wait' || (!advice && problem)) && (
							<MeasureHere
								site={site}
								engine={engine}
								station={tank.code}
								quantity="ph"
								note="before a dose"
								keep={batch?.reading('ph', null)}
								onRead={measured}
							/>
						)}
					</div>
				)}
			</div>
			{advice && !given && (
				<div className="mt-4 lg:mt-0">
					{(advice.do === 'dose' || advice.do === 'nothing') && advice.curve.length > 0 && (
						<>
							<h2>How this tank answers {product.name} now</h2>
							<ResponseChart advice={advice} targetPh={targetPh} product={product.name} />
						</>
					)}
					{advice.past.length > 0 && <PastDoses past={advice.past} units={site.units} />}
				</div>
			)}
		</div>
	);
}
