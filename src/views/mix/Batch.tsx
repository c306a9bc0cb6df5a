import { useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { dilute } from '@/core/mix/dilute';
import { nutrientDose } from '@/core/mix/nutrient-dose';
import { api } from '../api';
import { save } from '../entry/sample';
import { Choice, Text } from '../setup/fields';
import { TankChoice, WaterChoice } from './choices';
import { Dose } from './Dose';
import { ReadPh } from './ReadPh';
import { type BatchSummary, type Product, poured, type Tank } from './types';

const STRENGTHS = { full: 1, half: 0.5, quarter: 0.25 } as const;
const CLOSE_EC = 0.03;

/** One mixing from empty to plants: water, A, B, wait, EC, then pH last; each step with what it should show and what it does. */
export function Batch({
	tanks,
	products,
	waters,
	batches,
}: {
	tanks: Tank[];
	products: Product[];
	waters: { code: string; name: string; ecUsCm: number }[];
	batches: BatchSummary[];
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const acids = products.filter((p) => p.kind !== 'nutrient');
	const [tankCode, setTankCode] = useState(tanks[0]?.code ?? '');
	const [feedName, setFeedName] = useState(feeds[0]?.name ?? '');
	const [waterCode, setWaterCode] = useState(waters[0]?.code ?? '');
	const tank = tanks.find((t) => t.code === tankCode);
	const feed = feeds.find((p) => p.name === feedName);
	const water = waters.find((w) => w.code === waterCode);
	const middle = (r: [number, number] | null | undefined) => (r ? (r[0] + r[1]) / 2 : null);
	const [litres, setLitres] = useState(String(tank?.volumeL ?? 100));
	const [by, setBy] = useState<'target' | 'label'>('target');
	const [strength, setStrength] = useState<keyof typeof STRENGTHS>('full');
	const [target, setTarget] = useState(String(((middle(tank?.ecRange) ?? 1600) / 1000).toFixed(2)));
	const [targetPh, setTargetPh] = useState((middle(tank?.phRange) ?? 5.8).toFixed(1));
	const [open, setOpen] = useState<{ id: number; mlEach: number; expectedEc: number | null; part: number } | null>(
		null,
	);
	const [stage, setStage] = useState<'fill' | 'parts' | 'ec' | 'ph' | 'done'>('fill');
	const [ec, setEc] = useState('');
	const [seenEc, setSeenEc] = useState<number | null>(null);
	const [acid, setAcid] = useState(acids.find((a) => a.kind === 'acid')?.name ?? '');
	const [phRead, setPhRead] = useState(false);
	const [problem, setProblem] = useState('');
	const [said, setSaid] = useState<string[]>([]);

	const l = decimal(litres.trim());
	const goal = decimal(target.trim());
	const goalPh = decimal(targetPh.trim());
	const plan =
		feed && water && l !== undefined && l > 0
			? nutrientDose(
					by === 'target'
						? {
								volumeL: l,
								baseEcUsCm: water.ecUsCm,
								gainUsCmPerMlL: feed.gain_us_cm_per_ml_l ?? undefined,
								targetEcUsCm: goal === undefined ? undefined : goal * 1000,
							}
						: {
								volumeL: l,
								rateMlPerL: feed.rate_ml_per_l ?? undefined,
								strength: STRENGTHS[strength],
								baseEcUsCm: water.ecUsCm,
								gainUsCmPerMlL: feed.gain_us_cm_per_ml_l ?? undefined,
							},
				)
			: null;
	const attempt = async (work: () => Promise<void>) => {
		try {
			await work();
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const log = (step: string, expected: number | null, measured: number | null, words: string) => {
		setSaid((s) => [...s, words]);
		return api(`/batches/${open!.id}/steps`, { json: { step, expected, measured, words } });
	};
	const event = (kind: string, amount: number, unit: string, product: string) =>
		api('/events', { json: { station: tankCode, kind, amount, unit, product } });

	const begin = () =>
		attempt(async () => {
			if (!plan?.ok || !feed || !water || l === undefined) return;
			const { id } = await api<{ id: number }>('/batches', {
				json: {
					station: tankCode,
					plan: {
						litres: l,
						water: water.code,
						water_ec_us_cm: water.ecUsCm,
						product: feed.name,
						ml_per_l: plan.mlEach / l,
						parts: feed.parts,
						target_ec_us_cm: goal === undefined ? null : goal * 1000,
						target_ph: goalPh ?? null,
					},
				},
			});
			await event('solution_changed', l, 'L', water.name);
			// Nothing measured in the batch before counts for this one.
			setSeenEc(null);
			setPhRead(false);
			setOpen({ id, mlEach: plan.mlEach, expectedEc: plan.expectedEcUsCm, part: 0 });
			setSaid([`${l} L of ${water.name} in ${tank!.name}`]);
			setStage('parts');
		});
	const part = () =>
		attempt(async () => {
			const letter = String.fromCharCode(65 + open!.part);
			await event('nutrient_added', open!.mlEach, 'mL', feed!.name);
			await log('part', null, null, `${poured(open!.mlEach)} mL of part ${letter}`);
			const next = open!.part + 1;
			setOpen({ ...open!, part: next });
			if (next >= feed!.parts) setStage('ec');
		});
	const measuredEc = () =>
		attempt(async () => {
			const value = decimal(ec.trim());
			if (value === undefined || !(value >= 0)) throw new Error('Type the EC in mS/cm.');
			await save([
				{
					station: tankCode,
					instrument: null,
					values: [{ quantity: 'ec', digits: ec.trim().replace(',', '.'), unit: 'mS/cm' }],
					note: 'batch',
					at: Date.now(),
					source: 'bench',
				},
			]);
			await log('ec', open!.expectedEc, value * 1000, `EC ${value}`);
			setSeenEc(value * 1000);
			setEc('');
			if (goal === undefined || Math.abs(value - goal) <= CLOSE_EC * goal) setStage('ph');
		});
	const tooHigh = seenEc !== null && goal !== undefined && seenEc > goal * 1000 * (1 + CLOSE_EC);
	const tooLow = seenEc !== null && goal !== undefined && seenEc < goal * 1000 * (1 - CLOSE_EC);
	const correction =
		tooHigh && l !== undefined && water
			? dilute({
					volumeL: l,
					ecUsCm: seenEc!,
					targetEcUsCm: goal! * 1000,
					withEcUsCm: water.ecUsCm,
					capacityL: tank?.volumeL ? Math.max(tank.volumeL, l) : undefined,
				})
			: null;
	const more =
		tooLow && feed?.gain_us_cm_per_ml_l && l !== undefined
			? ((goal! * 1000 - seenEc!) / feed.gain_us_cm_per_ml_l) * l
			: null;
	const correct = () =>
		attempt(async () => {
			if (correction?.ok) {
				if (correction.drainL > 0.5) await event('drained', Math.round(correction.drainL), 'L', '');
				await event('water_added', Math.round(correction.addL), 'L', water!.name);
				await log(
					'diluted',
					goal! * 1000,
					null,
					`${correction.drainL > 0.5 ? `${Math.round(correction.drainL)} L drained, ` : ''}${Math.round(correction.addL)} L of ${water!.name} added`,
				);
				setOpen({ ...open!, expectedEc: goal! * 1000 });
				setSeenEc(null);
			} else if (more !== null) {
				await event('nutrient_added', more, 'mL', feed!.name);
				await log('fed', goal! * 1000, null, `${poured(more)} mL more of each part`);
				setOpen({ ...open!, expectedEc: goal! * 1000 });
				setSeenEc(null);
			}
		});
	const finish = () =>
		attempt(async () => {
			await log('done', null, null, 'done');
			setStage('done');
		});

	if (feeds.length === 0 || tanks.length === 0 || waters.length === 0)
		return (
			<p>
				A batch wants a tank and a source (in{' '}
				<a className="underline" href="/setup">
					Setup
				</a>
				), an EC of that source (at Bench), and a feed under Products.
			</p>
		);
	return (
		<div data-batch={stage}>
			{stage === 'fill' && (
				<form
					onSubmit={(e) => {
						e.preventDefault();
						begin();
					}}
				>
					<div className="flex flex-wrap gap-2 items-end">
						<TankChoice tanks={tanks} value={tankCode} onChange={setTankCode} />
						<Text label="litres" width="w-24" mode="decimal" value={litres} onChange={setLitres} />
						<WaterChoice waters={waters} value={waterCode} onChange={setWaterCode} />
						<Choice
							label="feed"
							width="w-40"
							value={feedName}
							options={feeds.map((p) => p.name)}
							onChange={setFeedName}
						/>
						<Choice
							label="by"
							width="w-28"
							value={by}
							options={['target', 'label']}
							onChange={(v) => setBy(v as 'target')}
						/>
						{by === 'target' ? (
							<Text label="target EC, mS/cm" width="w-28" mode="decimal" value={target} onChange={setTarget} />
						) : (
							<Choice
								label="strength"
								width="w-28"
								value={strength}
								options={Object.keys(STRENGTHS)}
								onChange={(v) => setStrength(v as 'full')}
							/>
						)}
						<Text label="target pH" width="w-24" mode="decimal" value={targetPh} onChange={setTargetPh} />
						<button type="submit" className="act act-main" disabled={!plan?.ok}>
							The tank is filled: begin
						</button>
					</div>
					{plan && !plan.ok && <p className="text-error mt-1">{plan.message}</p>}
					{plan?.ok && feed && (
						<p className="mt-2" data-batch-plan>
							<strong>{poured(plan.mlEach)} mL</strong> of each of {feed.parts} {feed.parts === 1 ? 'part' : 'parts'} (
							{(plan.mlEach / l!).toFixed(2)} mL/L).
							{plan.expectedEcUsCm !== null &&
								` EC should come to ${(plan.expectedEcUsCm / 1000).toFixed(2)} mS/cm, of which ${(water!.ecUsCm / 1000).toFixed(2)} is the water’s own.`}
						</p>
					)}
					{plan?.ok && feed && (
						<>
							<button type="button" className="act !font-normal mt-2 no-print" onClick={() => print()}>
								Print a batch sheet
							</button>
							<BatchSheet
								rows={[
									[`${litres} L of ${water!.name} into ${tank!.name}`, 'L'],
									...Array.from({ length: feed.parts }, (_, i): [string, string] => [
										`${poured(plan.mlEach)} mL of ${feed.name}, part ${String.fromCharCode(65 + i)}; stir`,
										'mL',
									]),
									[
										`wait until it has mixed; EC${plan.expectedEcUsCm === null ? '' : `, expected ${(plan.expectedEcUsCm / 1000).toFixed(2)}`}`,
										'mS/cm',
									],
									['corrected with', ''],
									[`pH last, target ${targetPh}: before`, ''],
									['dose, then pH', 'mL'],
									['dose, then pH', 'mL'],
								]}
							/>
						</>
					)}
					<p className="text-soft text-[0.9rem] mt-2 max-w-[75ch]">
						The order has its reasons: concentrates never meet (calcium falls out with sulfate and phosphate), EC before
						pH, and pH last, because feeds pull it down. Those who set pH first do it again at the end.
					</p>
				</form>
			)}
			{open && (
				<ol className="mb-2 text-soft">
					{said.map((s, i) => (
						<li key={`${i}${s}`}>✓ {s}</li>
					))}
				</ol>
			)}
			{stage === 'parts' && open && (
				<div>
					<p className="text-[1.15rem]">
						Pour <strong>{poured(open.mlEach)} mL</strong> of part {String.fromCharCode(65 + open.part)}, then stir
						{open.part + 1 < feed!.parts ? ' before the next part' : ' and wait until it has mixed'}.
					</p>
					<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
						Never concentrate on concentrate. Gloves and eye protection; no food containers; the label comes first.
					</p>
					<button type="button" className="act act-main" data-part onClick={part}>
						Part {String.fromCharCode(65 + open.part)} is in
					</button>
				</div>
			)}
			{stage === 'ec' && open && (
				<div>
					{seenEc === null ? (
						<form
							className="flex flex-wrap gap-3 items-end"
							onSubmit={(e) => {
								e.preventDefault();
								measuredEc();
							}}
						>
							<p className="w-full">
								Measure EC once it has mixed.
								{open.expectedEc !== null && (
									<>
										{' '}
										Expected: <strong>{(open.expectedEc / 1000).toFixed(2)}</strong> mS/cm.
									</>
								)}
							</p>
							<label className="block w-32">
								<span className="field-label">EC now, mS/cm</span>
								<input
									id="batch-ec"
									className="field !text-[1.4rem]"
									inputMode="decimal"
									autoComplete="off"
									value={ec}
									onChange={(e) => setEc(e.target.value)}
								/>
							</label>
							<button type="submit" className="act act-main">
								Enter
							</button>
						</form>
					) : (
						<div data-correction={tooHigh ? 'dilute' : 'feed'}>
							<p className="text-[1.15rem]">
								EC {(seenEc / 1000).toFixed(2)} is {tooHigh ? 'above' : 'below'} the target of {goal}.{' '}
								{correction?.ok &&
									`${correction.drainL > 0.5 ? `Drain ${Math.round(correction.drainL)} L and add` : 'Add'} ${Math.round(correction.addL)} L of ${water!.name}.`}
								{more !== null && `Add ${poured(more)} mL more of each part.`}
							</p>
							{correction?.ok && correction.drainL > 0.5 && (
								<p className="text-soft text-[0.9rem]">Where it may run off is a matter of local discharge rules.</p>
							)}
							{correction && !correction.ok && <p className="text-error">{correction.message}</p>}
							<div className="flex gap-2 mt-1">
								<button
									type="button"
									className="act act-main"
									data-correct
									disabled={!correction?.ok && more === null}
									onClick={correct}
								>
									Done: measure again
								</button>
								<button type="button" className="act !font-normal" onClick={() => setStage('ph')}>
									Leave it so
								</button>
							</div>
						</div>
					)}
				</div>
			)}
			{stage === 'ph' && open && tank && (
				<div>
					<div className="flex flex-wrap gap-3 items-end mb-2">
						<Choice label="with" width="w-40" value={acid} options={acids.map((a) => a.name)} onChange={setAcid} />
						<button type="button" className="act !font-normal" onClick={finish}>
							Finish the batch
						</button>
					</div>
					{!phRead ? (
						<ReadPh
							station={tank.code}
							note="batch"
							words="EC is right: now the pH, which comes last."
							onRead={() => setPhRead(true)}
						/>
					) : (
						acids.some((a) => a.name === acid) &&
						goalPh !== undefined && (
							<Dose
								tank={{ ...tank, volumeL: l ?? tank.volumeL }}
								product={acids.find((a) => a.name === acid)!}
								targetPh={goalPh}
								onStep={(step, expected, measured, words) => {
									log(step, expected, measured, words).catch((e: Error) => setProblem(e.message));
								}}
							/>
						)
					)}
				</div>
			)}
			{stage === 'done' && (
				<p className="text-[1.15rem]" data-batch-done>
					The batch is done and kept; its readings are in the Ledger and on the Trends.
				</p>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			<Earlier
				batches={batches}
				tanks={tanks}
				onRepeat={(b) => {
					setTankCode(b.station);
					setLitres(String(b.plan.litres));
					setFeedName(b.plan.product);
					if (b.plan.water) setWaterCode(b.plan.water);
					if (b.plan.targetEcUsCm) setTarget((b.plan.targetEcUsCm / 1000).toFixed(2));
					if (b.plan.targetPh) setTargetPh(String(b.plan.targetPh));
					setStage('fill');
				}}
			/>
		</div>
	);
}

/** The plan on paper, with a box for what each step showed. */
function BatchSheet({ rows }: { rows: [string, string][] }) {
	return (
		<table className="hidden print:table w-full border-collapse mt-4">
			<tbody>
				{rows.map(([what, unit], i) => (
					<tr key={`${i}${what}`} className="h-12">
						<th scope="row" className="border border-base-content px-2 !text-base-content !text-[1rem]">
							{what}
						</th>
						<td className="border border-base-content w-40 px-2 text-right text-soft align-bottom">{unit}</td>
						<td className="border border-base-content w-32 px-2 text-soft align-bottom">at</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}

/** Batches before, side by side, to be repeated at any size. */
function Earlier({
	batches,
	tanks,
	onRepeat,
}: {
	batches: BatchSummary[];
	tanks: Tank[];
	onRepeat: (b: BatchSummary) => void;
}) {
	if (batches.length === 0) return null;
	const seen = (b: BatchSummary, step: string) =>
		b.log.filter((s) => s.step === step && s.measured !== null).at(-1)?.measured ?? null;
	return (
		<section className="note-rule mt-4">
			<h2>Batches before</h2>
			<div className="overflow-x-auto">
				<table className="text-[0.95rem]">
					<thead>
						<tr>
							<th className="pr-4">when</th>
							<th className="pr-4">tank</th>
							<th className="pr-4">litres</th>
							<th className="pr-4">mL/L</th>
							<th className="pr-4">target EC</th>
							<th className="pr-4">EC came to</th>
							<th className="pr-4">doses</th>
							<th className="pr-4">pH came to</th>
							<th>again</th>
						</tr>
					</thead>
					<tbody>
						{batches.slice(0, 8).map((b) => (
							<tr key={b.id} className="border-t border-line" data-earlier={b.id}>
								<td className="pr-4">{new Date(b.startedAt).toISOString().slice(0, 10)}</td>
								<td className="pr-4">{tanks.find((t) => t.code === b.station)?.name ?? b.station}</td>
								<td className="pr-4">{b.plan.litres}</td>
								<td className="pr-4">{b.plan.mlPerL.toFixed(2)}</td>
								<td className="pr-4">{b.plan.targetEcUsCm === null ? '–' : (b.plan.targetEcUsCm / 1000).toFixed(2)}</td>
								<td className="pr-4">{seen(b, 'ec') === null ? '–' : (seen(b, 'ec')! / 1000).toFixed(2)}</td>
								<td className="pr-4">{b.log.filter((s) => s.step === 'dosed').length}</td>
								<td className="pr-4">{seen(b, 'ph')?.toFixed(2) ?? '–'}</td>
								<td>
									<button type="button" className="underline cursor-pointer min-h-10" onClick={() => onRepeat(b)}>
										use it
									</button>
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</div>
		</section>
	);
}
