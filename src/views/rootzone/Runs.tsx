import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { addressOf, api } from '../data/client';
import { OpensEvent } from '../entry/OpensButton';
import { volumeWithUnit } from '../mix/typed';
import { dateTime } from '../ui/format';
import { TakeBack } from './TakeBack';

const SHOWN = 5;

/** The newest runs as they were typed; one that was wrong is taken back. */
export function Runs({
	drains: d,
	site,
	onDone,
}: {
	drains: Drains;
	site: SiteView;
	onDone: (said: string, problem: string) => void;
}) {
	if (d.runs.length + d.noted.length === 0) return null;
	const caught = (litres: number | null, cups: readonly number[]) =>
		litres !== null ? volumeWithUnit(litres, site.units) : cups.length > 0 ? `${cups.join(', ')} mL` : '';
	async function takeBack(id: number) {
		try {
			await api('POST /irrigations/:id/withdrawal', { params: { id }, body: { withdrawn: true } });
			onDone('Taken back; what was read with it stays in the Ledger.', '');
		} catch (error) {
			onDone('', (error as Error).message);
		}
	}
	return (
		<section className="note-rule" data-runs={d.runs.length}>
			<h2>Newest runs</h2>
			<ul className="text-[0.92rem]">
				{d.runs.slice(0, SHOWN).map((r) => {
					const given = caught(r.applied_l ?? null, r.applied_cups_ml ?? []);
					const ran = caught(r.drained_l ?? null, r.drained_cups_ml ?? []);
					return (
						<li key={r.id} className="border-t border-line py-1">
							{dateTime(Date.parse(r.time), site.timezone)}
							{r.minutes && ` · ${r.minutes} min`}
							{given && ` · given ${given}`}
							{ran && ` · ran off ${ran}`}{' '}
							<TakeBack
								what={`the run of ${dateTime(Date.parse(r.time), site.timezone)}`}
								onBack={() => takeBack(r.id)}
							/>
						</li>
					);
				})}
			</ul>
			{d.noted.length > 0 && (
				<p className="text-[0.92rem]" data-noted-runs={d.noted.length}>
					Also logged, without what ran off:{' '}
					{d.noted.slice(0, SHOWN).map((r, i) => (
						<span key={r.event_id}>
							{i > 0 && ', '}
							<OpensEvent id={r.event_id}>{dateTime(Date.parse(r.time), site.timezone)}</OpensEvent>
							{r.minutes !== null && ` ${r.minutes} min`}
							{r.applied_l !== null && ` ${volumeWithUnit(r.applied_l, site.units)}`}
						</span>
					))}
				</p>
			)}
			<p className="text-soft text-[0.85rem]">
				<a
					className="underline"
					href={addressOf('GET /irrigations', { query: { system: d.system, format: 'csv' } })}
					download
				>
					all of them as CSV
				</a>
			</p>
		</section>
	);
}
