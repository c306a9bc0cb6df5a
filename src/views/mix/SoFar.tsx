import type { BatchStep } from '@/contract/batches';
import { OpensReading } from '../entry/OpensButton';

/** What was done of a batch, what each step showed, and what was kept though it was doubted. */
export function SoFar({ log, mS }: { log: readonly BatchStep[]; mS: (v: number) => string }) {
	return (
		<ol className="text-soft text-[0.95rem]" aria-label="Done so far" data-so-far>
			{log
				.filter((s) => s.step !== 'done')
				.map((s) => (
					<li key={`${s.time}${s.words}`} className="py-0.5 border-t border-line">
						<span aria-hidden="true">{s.doubt ? '◐' : '✓'}</span>{' '}
						<OpensReading id={s.reading_id ?? null}>{s.words}</OpensReading>
						{s.measured !== null && s.expected !== null && (
							<span className="text-[0.85rem]">
								{' '}
								(expected {s.step === 'ec' ? mS(s.expected) : s.expected.toFixed(2)})
							</span>
						)}
						{s.doubt && <span className="text-[0.85rem]"> kept though it was doubted</span>}
					</li>
				))}
		</ol>
	);
}
