import type { CalibrationResult } from '@/core/probe/calibration';
import { CALIBRATION_PROBLEM } from '@/words/en/calibration';
import { remarkWords } from '@/words/en/remark';

/** What the values typed so far say of the probe. */
export function LiveVerdict({
	quantity: q,
	result,
	points,
}: {
	quantity: 'ph' | 'ec';
	result: CalibrationResult | null;
	points: number;
}) {
	const said = result?.ok ? result.value : null;
	return (
		<div aria-live="polite" className="min-h-16" data-live={said?.verdict ?? ''}>
			{result && !result.ok && <p className="text-error mt-2">{CALIBRATION_PROBLEM[result.problem]}</p>}
			{said && (
				<div className="mt-2">
					<p>
						<strong className="text-[1.15rem]">
							{said.verdict === 'good' ? 'Good' : said.verdict === 'watch' ? 'Watch it' : 'Fails'}
						</strong>{' '}
						·{' '}
						{q === 'ph'
							? `offset ${said.offset >= 0 ? '+' : ''}${said.offset.toFixed(2)} pH`
							: `cell factor ${said.cellFactor!.toFixed(3)}`}
						{q === 'ph' && said.slopePct !== null ? `, slope ${said.slopePct.toFixed(1)} %` : ''}
					</p>
					{said.reasons.map((r) => (
						<p key={r.code}>{remarkWords(r)}</p>
					))}
					{q === 'ph' && points === 1 && (
						<p className="text-soft">One buffer shows the offset only; the span is unknown.</p>
					)}
				</div>
			)}
		</div>
	);
}
