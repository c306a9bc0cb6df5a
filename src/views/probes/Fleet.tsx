import type { Lot } from '@/contract/calibrations';
import type { Apart, BestDip, Probe } from '@/contract/probes';
import type { SiteView } from '@/core/reading/site-view';
import { type Held, unheld } from '../data/held';
import { age, ago } from '../ui/format';
import { Bottles } from './Bottles';
import { StorageSolution } from './StorageSolution';
import { Trust } from './Trust';
import { amount, offWords, STORAGE } from './words';

const QUANTITY = { ph: 'pH', ec: 'EC' } as const;

/** Every probe, ranked by how much it can be trusted today. */
export function Fleet({
	site: held,
	probes,
	apart,
	dip,
	lots,
}: {
	site: Held<SiteView>;
	probes: Probe[];
	apart: Apart[];
	dip: BestDip | null;
	lots: Lot[];
}) {
	const site = unheld(held);
	const now = site.now;
	const due = probes.filter((p) => p.due_at !== null && Date.parse(p.due_at) <= now);
	return (
		<div className="grid lg:grid-cols-[1fr_17rem] gap-x-8 gap-y-6">
			<section>
				<h1>Probes</h1>
				<p className="text-soft mb-3">
					The most trustworthy today first. The bar is what a reading taken now would be off by, with 95 % chance,
					against its tolerance: as its last calibration left it, as it drifts, and as the probes beside it say.
				</p>
				<ul>
					{probes.map((p) => {
						const late = p.due_at !== null && Date.parse(p.due_at) <= now;
						return (
							<li
								key={`${p.instrument}${p.quantity}`}
								className="border-t border-line py-2.5 grid sm:grid-cols-[9rem_1fr_15rem] gap-x-5 items-center"
							>
								<a href={`/probes/${encodeURIComponent(p.instrument)}/${p.quantity}`} className="block">
									<span className="font-bold underline underline-offset-4">{p.name}</span>{' '}
									<span className="text-soft">{QUANTITY[p.quantity]}</span>
									<span className="block text-soft text-[0.8rem]">
										{p.storage ? (p.storage === 'dry' ? 'kept dry and clean' : `kept in ${STORAGE[p.storage]}`) : ''}
									</span>
									{p.storage_overdue_days !== null && (
										<span className="block text-warning text-[0.85rem]" data-renew>
											renew the solution in its cap
										</span>
									)}
								</a>
								<Trust probe={p} />
								<div className="text-[0.9rem]">
									<span className={late ? 'font-bold' : ''}>
										{late ? 'Due now' : p.due_at ? `Due in ${age(now, Date.parse(p.due_at))}` : ''}
									</span>
									<span className="text-soft">
										{' '}
										· {p.last_at ? `calibrated ${ago(Date.parse(p.last_at), now)}` : 'never calibrated here'}
									</span>
									<span className="block text-soft text-[0.8rem]">{p.due_reason}</span>
								</div>
							</li>
						);
					})}
				</ul>
				{probes.length === 0 && (
					<p>
						No meter with a probe yet.{' '}
						<a className="underline" href="/setup">
							Add one in Setup
						</a>
					</p>
				)}
			</section>
			<aside>
				{apart.length > 0 && <ApartNow apart={apart} probes={probes} />}
				{dip && <CheapestDip dip={dip} probes={probes} />}
				{due.length > 0 && (
					<div className="note-rule">
						<h2>Wants its buffer first</h2>
						<p className="mb-2">
							{due[due.length - 1]!.name}, {QUANTITY[due[due.length - 1]!.quantity]}: a reading now is{' '}
							{offWords(due[due.length - 1]!)}.
						</p>
						<a
							className="act act-main"
							href={`/calibrate?instrument=${encodeURIComponent(due[due.length - 1]!.instrument)}&quantity=${due[due.length - 1]!.quantity}`}
						>
							Calibrate {due[due.length - 1]!.name}{' '}
							<kbd className="!text-primary-content !border-primary-content">c</kbd>
						</a>
					</div>
				)}
				<Bottles lots={lots} zone={site.timezone} />
				<StorageSolution />
				<div className="note-rule text-[0.92rem]">
					<h2>Care</h2>
					<p className="mb-2">
						<strong>pH bulb.</strong> Dry is dead: keep the cap wet with potassium chloride solution, or with storage
						solution or a buffer near pH 4 if the maker says so. Rinse with clean water, shake, never wipe. Pure water
						strips it; use it for rinsing only.
					</p>
					<p className="mb-2">
						<strong>EC cell.</strong> Store it dry and clean. Scale comes off with a weak acid such as vinegar, then
						rinse well. Cover it to the vent hole when reading.
					</p>
					<p>
						<strong>A dry bulb</strong> goes into storage solution for some hours, then to two buffers; compare the
						slope before and after.
					</p>
				</div>
			</aside>
		</div>
	);
}

/** Two that disagree, and neither is known to be the one. */
function ApartNow({ apart, probes }: { apart: Apart[]; probes: Probe[] }) {
	const nameOf = (code: string) => probes.find((p) => p.instrument === code)?.name ?? code;
	return (
		<div className="note-rule" data-apart={apart.length}>
			<h2>One of two is wrong</h2>
			{apart.map((a) => (
				<p key={`${a.quantity}${a.a}${a.b}`} className="mb-1">
					{nameOf(a.by > 0 ? a.a : a.b)} shows {amount(a.quantity, Math.abs(a.by))} more {QUANTITY[a.quantity]} than{' '}
					{nameOf(a.by > 0 ? a.b : a.a)} in one water (±{amount(a.quantity, 1.96 * a.u)}). Which of them is off is not
					known: dip one in a standard.
				</p>
			))}
		</div>
	);
}

/** One dip that tells of the others as well, since they met. */
function CheapestDip({ dip, probes }: { dip: BestDip; probes: Probe[] }) {
	const name = probes.find((p) => p.instrument === dip.instrument)?.name ?? dip.instrument;
	return (
		<div className="note-rule" data-cheapest-dip>
			<h2>The dip that tells most</h2>
			<p className="mb-2">
				{name} in one {dip.quantity === 'ph' ? 'buffer' : 'EC standard'}: it would take away{' '}
				{Math.round(100 * dip.share)} % of what is unknown of all probes together.
			</p>
			<a className="act" href={`/calibrate?instrument=${encodeURIComponent(dip.instrument)}&quantity=${dip.quantity}`}>
				Check {name}
			</a>
		</div>
	);
}
