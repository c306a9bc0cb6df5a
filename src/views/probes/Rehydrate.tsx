import type { ProbeStory } from '@/contract/probes';
import type { ProbeEventKind } from '@/core/probe/care';
import { BEST_SOAK_MS, LEAST_SOAK_MS, rehydration } from '@/core/probe/rehydration';
import { ago, dateTime } from '../ui/format';

const HOUR = 3_600_000;

/** A bulb that dried out, brought back step by step: into solution, its hours, two buffers, and what that made of its slope. */
export function Rehydrate({
	story,
	now,
	zone,
	onLog,
}: {
	story: ProbeStory;
	now: number;
	zone: string;
	onLog: (kind: ProbeEventKind) => void;
}) {
	if (story.quantity !== 'ph') return null;
	const slopes = story.calibrations.flatMap((c) =>
		c.withdrawn || c.slope_pct === null ? [] : [{ at: Date.parse(c.time), slopePct: c.slope_pct }],
	);
	const events = story.events.map((e) => ({ at: Date.parse(e.time), kind: e.kind }));
	const r = rehydration(events, slopes, now);
	if (!r) return null;
	const slope = (pct: number | null) => (pct === null ? 'not known' : `${pct.toFixed(1)} %`);
	return (
		<div className="note-rule" data-rehydration={r.state}>
			<h2>It dried out {ago(r.driedAt, now)}</h2>
			<ol className="list-decimal pl-6">
				<li className={r.state === 'dry' ? 'font-bold' : 'text-soft'}>
					Stand it in storage solution, the bulb covered.{' '}
					{r.state === 'dry' && (
						<button
							type="button"
							className="underline cursor-pointer min-h-11 font-normal"
							data-soak
							onClick={() => onLog('rehydrated')}
						>
							it stands in it now
						</button>
					)}
				</li>
				<li className={r.state === 'soaking' ? 'font-bold' : 'text-soft'}>
					{r.soakedAt === null
						? `Leave it there ${LEAST_SOAK_MS / HOUR} hours at the least, over night is better.`
						: `In since ${dateTime(r.soakedAt, zone)}: from ${dateTime(r.soakedAt + LEAST_SOAK_MS, zone)} it can be dipped, best from ${dateTime(r.soakedAt + BEST_SOAK_MS, zone)}.`}
				</li>
				<li className={r.state === 'ready' ? 'font-bold' : 'text-soft'}>
					Calibrate it in two buffers.{' '}
					{r.state === 'ready' && (
						<a
							className="underline inline-block py-2.5 font-normal"
							href={`/calibrate?instrument=${encodeURIComponent(story.instrument)}&quantity=ph`}
						>
							calibrate
						</a>
					)}
				</li>
			</ol>
			<p>
				Slope before {slope(r.slopeBeforePct)}
				{r.state === 'done' && `, after ${slope(r.slopeAfterPct)}`}.{r.came === 'back' && ' It came back.'}
				{r.came === 'weaker' && ' It is weaker than before: soak it another night, and replace it if it stays so.'}
			</p>
		</div>
	);
}
