import type { SiteView } from '@/core/reading/site-view';
import { askAgain } from '../data/queries';
import { Decide } from '../entry/Decide';
import { ago } from '../ui/format';
import type { Line } from './Round';
import { SeasonNotes } from './SeasonNotes';

const DAY = 86_400_000;

/** What the walk wants beside readings: solution in caps, standards before pens are used, decisions. */
export function RoundAside({ line, site, now }: { line: Line; site: SiteView; now: number }) {
	const pen = (code: string) => site.instruments.find((i) => i.info.code === code)?.name ?? code;
	return (
		<>
			<SeasonNotes />
			{line.wants_solution.map((p) => (
				<p key={`${p.instrument}${p.quantity}`} data-wants-solution>
					<a className="underline inline-block py-2" href={`/probes/${encodeURIComponent(p.instrument)}/${p.quantity}`}>
						{pen(p.instrument)}
					</a>{' '}
					wants new solution in its cap{p.days > 1 && `, for ${p.days} days`}.
				</p>
			))}
			{line.wants_standard.length > 0 && (
				<div className="note-rule" data-wants-standard={line.wants_standard.length}>
					<h2>A buffer first</h2>
					{line.wants_standard.map((p) => (
						<p key={`${p.instrument}${p.quantity}`}>
							<a
								className="underline"
								href={`/calibrate?instrument=${encodeURIComponent(p.instrument)}&quantity=${p.quantity}`}
							>
								{pen(p.instrument)} {p.quantity === 'ph' ? 'pH' : 'EC'}
							</a>{' '}
							<span className="text-soft">
								{now - Date.parse(p.due_at) > DAY ? `due ${ago(Date.parse(p.due_at), now)}` : 'due today'}, {p.reason}
							</span>
						</p>
					))}
				</div>
			)}
			<div className="note-rule">
				<h2>Wants a decision</h2>
				{line.to_decide.length === 0 ? <p className="text-soft">Nothing is in doubt.</p> : null}
				{line.to_decide.slice(0, 3).map((r) => (
					<Decide key={r.id} reading={r} site={site} now={now} onDone={() => void askAgain()} />
				))}
				{line.to_decide.length > 3 && (
					<a className="underline" href="/review">
						{line.to_decide.length - 3} more in Review
					</a>
				)}
			</div>
		</>
	);
}
