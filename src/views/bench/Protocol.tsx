import { useCallback, useEffect, useState } from 'react';
import type { ShownStep } from '@/words/en/protocol';

/** The steps of measuring here: one tap each, the reason on demand, any of them passed over. */
export function Protocol({
	steps,
	done,
	onTick,
	expert,
	onExpert,
}: {
	steps: readonly ShownStep[];
	done: ReadonlySet<string>;
	onTick: (code: string) => void;
	/** For those who know them: only a button that shows them again. */
	expert: boolean;
	onExpert: (on: boolean) => void;
}) {
	const [why, setWhy] = useState<string | null>(null);
	if (expert)
		return (
			<button
				type="button"
				className="block mt-3 underline cursor-pointer text-soft min-h-8"
				data-show-steps
				onClick={() => onExpert(false)}
			>
				Show the steps of measuring here
			</button>
		);
	const lastDone = Math.max(-1, ...steps.map((s, i) => (done.has(s.code) ? i : -1)));
	return (
		<section className="border-t border-line pt-2 mt-3" aria-label="Steps of measuring here" data-protocol>
			<h2 className="flex items-baseline gap-3">
				<span>Measuring here</span>
				<button
					type="button"
					className="underline cursor-pointer font-normal text-soft text-[0.9rem]"
					onClick={() => onExpert(true)}
				>
					only the timer
				</button>
			</h2>
			<ol className="mt-1 flex flex-wrap gap-x-2 gap-y-1.5">
				{steps.map((s, i) => {
					const ticked = done.has(s.code);
					const passedOver = !ticked && i < lastDone;
					return (
						<li key={s.code} className="flex">
							<button
								type="button"
								aria-pressed={ticked}
								data-step={s.code}
								className={`border px-2.5 py-1.5 min-h-12 sm:min-h-10 rounded-l-[3px] cursor-pointer text-left ${ticked ? 'border-base-content bg-lit' : passedOver ? 'border-warning border-dashed' : 'border-line'}`}
								onClick={() => onTick(s.code)}
							>
								<span aria-hidden="true" className="inline-block w-5 font-bold">
									{ticked ? '✓' : passedOver ? '–' : i + 1}
								</span>
								{s.text}
								{passedOver && <span className="text-soft"> (left out)</span>}
							</button>
							{s.why && (
								<button
									type="button"
									className="border border-l-0 border-line px-2 rounded-r-[3px] cursor-pointer text-soft min-h-12 sm:min-h-10"
									aria-expanded={why === s.code}
									aria-label={`Why: ${s.text}`}
									onClick={() => setWhy(why === s.code ? null : s.code)}
								>
									why
								</button>
							)}
						</li>
					);
				})}
			</ol>
			{why && (
				<p className="text-soft mt-1 max-w-[70ch]" role="note">
					{steps.find((s) => s.code === why)?.why}
				</p>
			)}
		</section>
	);
}

const EXPERT = 'cordwain.expert';

/** Whether the person at this device wants the steps, or only the timer. */
export function useExpert(): readonly [boolean, (on: boolean) => void] {
	const [expert, setExpert] = useState(false);
	useEffect(() => setExpert(localStorage.getItem(EXPERT) === 'yes'), []);
	const set = useCallback((on: boolean) => {
		setExpert(on);
		localStorage.setItem(EXPERT, on ? 'yes' : 'no');
	}, []);
	return [expert, set];
}
