import { useState } from 'react';
import type { Station } from '@/contract/site';
import { QUANTITIES, QUANTITY, type Quantity } from '@/core/quantity';
import { STEPS, usualProtocol } from '@/core/reading/protocol';
import { RHYTHMS, type Rhythm, usualRhythms } from '@/core/rhythm/due';
import { stepWords } from '@/words/en/protocol';

/** How a station is measured: what how often, and the steps. Until changed both are the usual of its kind. */
export function StationHabits({
	station: s,
	onChange,
}: {
	station: Station;
	onChange: (change: Partial<Station>) => void;
}) {
	const [own, setOwn] = useState('');
	const rhythm = s.rhythm ?? usualRhythms(s.kind, false);
	const steps =
		s.protocol ??
		usualProtocol(s.kind, 'combined', false)
			.map(stepWords)
			.map(({ code, text }) => ({ code, text }));
	const missing = STEPS.filter((code) => !steps.some((x) => x.code === code)).map(stepWords);
	const setRhythm = (q: Quantity, value: Rhythm | '') => {
		const { [q]: _, ...others } = rhythm;
		onChange({ rhythm: value === '' ? others : { ...others, [q]: value } });
	};
	const setSteps = (next: { code: string; text: string }[]) => onChange({ protocol: next });
	const move = (i: number) => {
		const next = [...steps];
		[next[i - 1], next[i]] = [next[i]!, next[i - 1]!];
		setSteps(next);
	};
	const unused = QUANTITIES.filter((q) => !(q in rhythm) && q !== 'tds' && q !== 'mv');
	return (
		<details className="w-full" data-habits={s.code}>
			<summary className="cursor-pointer text-soft text-[0.9rem]">
				how it is measured: what how often, and the steps
			</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				{QUANTITIES.flatMap((q) => (rhythm[q] ? [[q, rhythm[q]] as const] : [])).map(([q, r]) => (
					<label key={q} className="block w-28">
						<span className="field-label">{QUANTITY[q].name}</span>
						<select className="field" value={r} onChange={(e) => setRhythm(q, e.target.value as Rhythm | '')}>
							{RHYTHMS.map((x) => (
								<option key={x} value={x}>
									{x === 'visit' ? 'each visit' : x}
								</option>
							))}
						</select>
					</label>
				))}
				<label className="block w-32">
					<span className="field-label">measure also</span>
					<select className="field" value="" onChange={(e) => setRhythm(e.target.value as Quantity, 'weekly')}>
						<option value="">…</option>
						{unused.map((q) => (
							<option key={q} value={q}>
								{QUANTITY[q].name}
							</option>
						))}
					</select>
				</label>
			</div>
			<ol className="py-1">
				{steps.map((step, i) => (
					<li key={step.code} className="flex gap-2 items-center py-0.5">
						<span className="text-soft w-5 text-right">{i + 1}</span>
						<input
							className="field max-w-md"
							aria-label={`Step ${i + 1}`}
							value={step.text}
							maxLength={200}
							onChange={(e) => setSteps(steps.map((x, j) => (j === i ? { ...x, text: e.target.value } : x)))}
						/>
						<button
							type="button"
							className="underline cursor-pointer min-h-10"
							disabled={i === 0}
							onClick={() => move(i)}
						>
							earlier
						</button>
						<button
							type="button"
							className="underline cursor-pointer min-h-10"
							onClick={() => setSteps(steps.filter((_, j) => j !== i))}
						>
							drop
						</button>
					</li>
				))}
			</ol>
			<div className="flex flex-wrap gap-2 items-end">
				<label className="block w-72">
					<span className="field-label">a step of your own</span>
					<input className="field" value={own} maxLength={200} onChange={(e) => setOwn(e.target.value)} />
				</label>
				<button
					type="button"
					className="act !font-normal"
					disabled={own.trim() === ''}
					onClick={() => {
						setSteps([{ code: `own-${steps.length + 1}-${own.length}`, text: own.trim() }, ...steps]);
						setOwn('');
					}}
				>
					Add it
				</button>
				<select
					className="field !w-56"
					aria-label="A usual step"
					value=""
					onChange={(e) => {
						const step = missing.find((m) => m.code === e.target.value);
						if (step) setSteps([...steps, { code: step.code, text: step.text }]);
					}}
				>
					<option value="">a usual step…</option>
					{missing.map((m) => (
						<option key={m.code} value={m.code}>
							{m.text}
						</option>
					))}
				</select>
				{(s.protocol || s.rhythm) && (
					<button
						type="button"
						className="underline cursor-pointer min-h-10"
						onClick={() => onChange({ protocol: null, rhythm: null })}
					>
						back to the usual
					</button>
				)}
			</div>
		</details>
	);
}
