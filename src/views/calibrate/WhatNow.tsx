import { evaluateCalibration } from '@/core/probe/calibration';
import { nextSteps } from '@/core/probe/next-steps';
import { nextStepWords } from '@/words/en/calibration';
import { useAsked } from '../data/queries';
import { offWords } from '../probes/words';
import type { Outcome } from './Result';

/** Cleaned or soaked so shortly before, it was this calibration that was to show what it helped. */
const SHORTLY_MS = 3 * 86_400_000;

/** A probe that was not found good: what to do now, in order, and what its readings are worth until then. */
export function WhatNow({
	outcome,
	instrument,
	quantity,
	kind,
	tempC,
	onAdjust,
}: {
	outcome: Outcome;
	instrument: string;
	quantity: 'ph' | 'ec';
	kind: 'check' | 'adjust';
	tempC: number | null;
	onAdjust: () => void;
}) {
	const { data: story } = useAsked('GET /probes/:instrument/:quantity', { params: { instrument, quantity } });
	const points = outcome.points.flatMap((p) =>
		p.as_found === null ? [] : [{ nominal: p.nominal, asFound: p.as_found, mv: p.mv ?? undefined }],
	);
	const evaluated = evaluateCalibration(quantity, points, tempC ?? 25);
	if (!evaluated.ok || evaluated.value.verdict === 'good') return null;
	const again =
		story?.events.some(
			(e) => (e.kind === 'cleaned' || e.kind === 'rehydrated') && Date.now() - Date.parse(e.time) < SHORTLY_MS,
		) ?? false;
	const steps = nextSteps(evaluated.value, kind, again);
	if (steps.length === 0 && !story?.error_told) return null;
	return (
		<div className="note-rule mt-4" data-what-now={steps.join(' ')}>
			<h2>What to do now</h2>
			<ol className="list-decimal pl-6">
				{steps.map((s) => (
					<li key={s}>
						{nextStepWords(s, quantity)}{' '}
						{s === 'adjust' && (
							<button type="button" className="underline cursor-pointer min-h-11" onClick={onAdjust}>
								adjust it now
							</button>
						)}
						{(s === 'clean' || s === 'rehydrate') && (
							<a
								className="underline inline-block py-2.5"
								href={`/probes/${encodeURIComponent(instrument)}/${quantity}`}
							>
								log it
							</a>
						)}
					</li>
				))}
			</ol>
			{story && (
				<p className="mt-1" data-meanwhile>
					<strong>Meanwhile</strong> a reading with it is {offWords(story)}.{' '}
					{story.error_told
						? 'Cordwain takes that off, and says so beside each reading; dose on another meter where there is one.'
						: 'It may be used within that.'}
				</p>
			)}
		</div>
	);
}
