import { useCallback, useState } from 'react';
import type { Change } from '@/contract/meters';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { Engine } from '@/core/judge/engine';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { enter } from '../data/queue';
import { Choice } from '../ui/controls';
import { ago } from '../ui/format';
import { afterNews, type EcNow } from './ec-now';
import { type EcStep, ecStep, feedPours } from './ec-step';
import { logEvents } from './log-event';
import { MeasureHere } from './MeasureHere';
import { MixingWait } from './MixingWait';
import { ecShown, ecWithUnit } from './typed';
import { useTankNews } from './use-tank-news';
import { poured } from './words';

const HOUR = 3_600_000;
/** An older EC is read again before anything is poured on it. */
const STALE_MS = 6 * HOUR;
/** What was poured is given so long before EC is read again. */
const MIX_MS = 10 * 60_000;

/** EC of one tank of several: left alone in its range, else one step, and the second reading. */
export function TankEc({
	site,
	engine,
	tank,
	volumeL,
	feeds,
	usual,
	water,
	onDone,
}: {
	site: SiteView;
	engine: Engine;
	tank: Tank;
	volumeL: number | undefined;
	feeds: Product[];
	usual: string;
	water: KnownWater | undefined;
	/** Something was poured. */
	onDone: () => void;
}) {
	const [now, setNow] = useState<EcNow>({
		ecUsCm: tank.ecUsCm,
		at: tank.ecAt ?? 0,
		doubted: tank.ecDoubted,
		overtaken: tank.ecOvertaken,
	});
	const [feedName, setFeed] = useState(usual);
	const [typed, setTyped] = useState('');
	const [given, setGiven] = useState<{ step: EcStep; mixedAt: number } | null>(null);
	const [told, setTold] = useState('');
	const [problem, setProblem] = useState('');
	const shown = (v: number) => ecShown(v, site.units);
	const feed = feeds.find((f) => f.name === feedName);
	const range = tank.ecRange;
	const stale = now.ecUsCm === null || now.doubted || now.overtaken || Date.now() - now.at > STALE_MS;
	const inRange = range && now.ecUsCm !== null && now.ecUsCm >= range[0] && now.ecUsCm <= range[1];
	const low = range && now.ecUsCm !== null && now.ecUsCm < range[0];
	const step =
		range && !inRange && !stale
			? ecStep({ ecUsCm: now.ecUsCm!, range, volumeL, holdsL: tank.volumeL, feed, water, units: site.units })
			: null;

	// Somebody else may be at it: what they poured, and what they read, is of this tank too.
	useTankNews(
		tank.code,
		useCallback((change: Change) => setNow((n) => afterNews(n, change)), []),
	);

	async function done(s: EcStep) {
		const own = low && feed && typed.trim() !== '' ? decimal(typed.trim()) : s.amount;
		if (own === undefined || !(own > 0) || own > 3 * s.amount)
			return setProblem(`How much was poured? Advised were ${poured(s.amount)}; more than three times that is a slip.`);
		const list = low && feed ? feedPours(feed, own) : s.pours;
		try {
			await logEvents(engine, tank.code, list, async (events) => {
				for (const event of events)
					await enter(
						'POST /events',
						{ body: { station: tank.code, ...event } },
						`${tank.name}: ${event.amount} ${event.unit} ${event.product}`,
					);
			});
			setGiven({ step: s, mixedAt: Date.now() + MIX_MS });
			setTold('');
			setTyped('');
			setProblem('');
			onDone();
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	const read = (
		<MeasureHere
			site={site}
			engine={engine}
			station={tank.code}
			quantity="ec"
			note={given ? 'after feeding' : 'before feeding'}
			aim={given?.step.expectedEcUsCm ?? null}
			onRead={(m) => {
				if (given) setTold(`EC went to ${shown(m.value)}, expected ${shown(given.step.expectedEcUsCm)}.`);
				setGiven(null);
				setNow({ ecUsCm: m.value, at: Date.now(), doubted: false, overtaken: false });
				onDone();
			}}
		/>
	);
	return (
		<div data-ec={given ? 'waiting' : stale ? 'read' : inRange ? 'leave' : step?.ok ? 'step' : 'none'}>
			<p>
				EC {now.ecUsCm === null ? 'not read yet' : ecWithUnit(now.ecUsCm, site.units)}
				{now.ecUsCm !== null && now.at > 0 && <span className="text-soft"> {ago(now.at, Date.now())}</span>}
				{range && (
					<span className="text-soft">
						, range {shown(range[0])} to {shown(range[1])}
					</span>
				)}
				{inRange && !stale && ': leave it.'}
				{now.doubted
					? ': in doubt, nothing is poured on it.'
					: now.overtaken && '. Something was poured in or drained since: read it again before anything is poured.'}
			</p>
			{told && <p className="border-l-4 border-secondary pl-2">{told}</p>}
			{given ? (
				<div className="no-print">
					<p>{given.step.words}: it is in.</p>
					<MixingWait mixedAt={given.mixedAt} of="ec" />
					{read}
				</div>
			) : !range ? (
				<p className="text-soft">No range is set for it: nothing is advised.</p>
			) : stale ? (
				<details className="no-print">
					<summary className="underline cursor-pointer min-h-11 py-2">read its EC now</summary>
					{read}
				</details>
			) : step?.ok ? (
				<form
					className="flex flex-wrap gap-2 items-end"
					onSubmit={(e) => {
						e.preventDefault();
						done(step.value);
					}}
				>
					<p className="w-full">
						<strong>{step.value.words}</strong>; it should come to {shown(step.value.expectedEcUsCm)}.
						<span className="hidden print:inline"> EC after: ________ at ________</span>
					</p>
					{low && (
						<>
							<span className="no-print">
								<Choice
									label="feed"
									width="w-40"
									value={feedName}
									options={feeds.map((f) => f.name)}
									onChange={setFeed}
								/>
							</span>
							<label className="block w-24 no-print">
								<span className="field-label">poured, {feed?.unit}</span>
								<input
									className="field"
									inputMode="decimal"
									placeholder={poured(step.value.amount)}
									value={typed}
									onChange={(e) => setTyped(e.target.value)}
								/>
							</label>
						</>
					)}
					<button type="submit" className="act no-print">
						In
					</button>
				</form>
			) : (
				step && <p className="text-error">{step.message}</p>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</div>
	);
}
