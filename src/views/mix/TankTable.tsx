import { useState } from 'react';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { Text } from '../ui/controls';
import { usualFeed } from './batch-draft';
import { WaterChoice } from './choices';
import { TankEc } from './TankEc';
import { TankPh } from './TankPh';
import { litresTyped, volumeName, volumeWithUnit } from './typed';
import { type MixThings, useMix } from './use-mix';

/** A pH that can be meant. */
const asTarget = (text: string): number | undefined => {
	const n = decimal(text.trim());
	return n !== undefined && n >= 3 && n <= 10 ? n : undefined;
};

/** Several tanks at once, a row of buckets with different plants: EC, then pH of each, and what each step did. */
export function TankTable(things: MixThings) {
	const { site, engine, tanks, products, waters, batches } = useMix(things);
	const [target, setTarget] = useState('');
	const [water, setWater] = useState(waters[0]?.code ?? '');
	if (tanks.length === 0) return <p>There is no tank yet: add one in Setup.</p>;
	return (
		<div data-tank-table>
			<div className="flex flex-wrap gap-2 items-end no-print">
				<Text
					label="target pH (else into each range)"
					width="w-56"
					mode="decimal"
					value={target}
					onChange={setTarget}
				/>
				{waters.length > 0 && <WaterChoice units={site.units} waters={waters} value={water} onChange={setWater} />}
				<button type="button" className="act !font-normal" onClick={() => print()}>
					Print the row
				</button>
			</div>
			<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-2" data-caution>
				EC before pH in each. Gloves and eye protection; acid into water, never the reverse; never concentrate on
				concentrate, never acid on base. The label comes first. Unplug pumps and heaters before reaching in.
			</p>
			{tanks.map((t) => (
				<TankRow
					key={t.code}
					site={site}
					engine={engine}
					tank={t}
					products={products}
					water={waters.find((w) => w.code === water)}
					usual={usualFeed(products, batches, t.code)?.name ?? ''}
					targetPh={asTarget(target)}
				/>
			))}
		</div>
	);
}

function TankRow({
	site,
	engine,
	tank,
	products,
	water,
	usual,
	targetPh,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	products: Product[];
	water: KnownWater | undefined;
	/** Name of the feed it is usually given. */
	usual: string;
	targetPh: number | undefined;
}) {
	const [litres, setLitres] = useState('');
	/** Counts what was done to its EC: pH is asked about anew after it. */
	const [fed, setFed] = useState(0);
	const volumeL = tank.volumeL ?? litresTyped(litres, site.units);
	return (
		<section
			className="border-t border-line py-2 grid lg:grid-cols-[9rem_1fr_1fr] gap-x-8 gap-y-2 break-inside-avoid"
			data-tank={tank.code}
			aria-label={tank.name}
		>
			<div>
				<h2>{tank.name}</h2>
				{tank.volumeL === null ? (
					<label className="block w-28">
						<span className="field-label">in it, {volumeName(site.units)}</span>
						<input
							className="field"
							inputMode="decimal"
							aria-label={`Litres in ${tank.name}`}
							value={litres}
							onChange={(e) => setLitres(e.target.value)}
							onBlur={() => setFed((n) => n + 1)}
						/>
					</label>
				) : (
					<p className="text-soft">{volumeWithUnit(tank.volumeL, site.units)}</p>
				)}
			</div>
			<TankEc
				site={site}
				engine={engine}
				tank={tank}
				volumeL={volumeL}
				feeds={products.filter((p) => p.kind === 'nutrient')}
				usual={usual}
				water={water}
				onDone={() => setFed((n) => n + 1)}
			/>
			<TankPh
				key={fed}
				site={site}
				engine={engine}
				tank={tank}
				volumeL={volumeL}
				changers={products.filter((p) => p.kind !== 'nutrient')}
				targetPh={targetPh}
			/>
		</section>
	);
}
