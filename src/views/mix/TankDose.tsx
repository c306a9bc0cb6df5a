import { useState } from 'react';
import type { Tank } from '@/contract/pages';
import { decimal } from '@/core/quantity';
import { Choice, Text } from '../ui/controls';
import { Dose } from './Dose';
import { type MixThings, useMix } from './use-mix';

/** pH of one tank in few learned steps: which tank, with what, to what. */
export function TankDose(things: MixThings) {
	const { site, engine, tanks, products } = useMix(things);
	const acids = products.filter((p) => p.kind !== 'nutrient');
	const [tankCode, setTankCode] = useState(tanks[0]?.code ?? '');
	const tank = tanks.find((t) => t.code === tankCode);
	const [acid, setAcid] = useState(acids.find((a) => a.kind === 'acid')?.name ?? acids[0]?.name ?? '');
	const product = acids.find((a) => a.name === acid);
	const middle = (t: Tank | undefined) => (t?.phRange ? ((t.phRange[0] + t.phRange[1]) / 2).toFixed(1) : '5.8');
	const [target, setTarget] = useState(middle(tank));
	const goal = decimal(target.trim());
	if (!tank || !product)
		return (
			<p>
				{tanks.length === 0
					? 'There is no tank yet: add one in Setup.'
					: 'Add an acid or a base under Products, with what its label says.'}
			</p>
		);
	return (
		<>
			<div className="flex flex-wrap gap-2 items-end mb-3">
				<Choice
					label="tank"
					width="w-44"
					value={tankCode}
					options={tanks.map((t) => t.code)}
					labels={Object.fromEntries(tanks.map((t) => [t.code, t.name]))}
					onChange={(v) => {
						setTankCode(v);
						setTarget(middle(tanks.find((t) => t.code === v)));
					}}
				/>
				<Choice label="with" width="w-40" value={acid} options={acids.map((a) => a.name)} onChange={setAcid} />
				<Text label="to pH" width="w-20" mode="decimal" value={target} onChange={setTarget} />
			</div>
			{goal !== undefined && (
				<Dose key={`${tankCode}${acid}`} site={site} engine={engine} tank={tank} product={product} targetPh={goal} />
			)}
			<p className="text-soft text-[0.9rem] mt-4 max-w-[75ch]">
				Bring EC right before pH. A dose undershoots on purpose: what is missing is added after measuring, what is too
				much is hard to take back. Young plants move their bucket less than large ones do.
			</p>
		</>
	);
}
