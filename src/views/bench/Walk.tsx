import { useEffect, useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import type { BenchWalk } from './walk-order';

/** Where the round stands, and its end: what was left out is kept with its reason. */
export function Walk({
	walk,
	site,
	done,
	current,
	onSkip,
}: {
	walk: BenchWalk;
	site: SiteView;
	done: ReadonlySet<string>;
	current: string;
	onSkip: () => void;
}) {
	const [reasons, setReasons] = useState<Record<string, string>>({});
	const [ending, setEnding] = useState(false);
	const [problem, setProblem] = useState('');
	const open = walk.stops.filter((s) => !done.has(s.station));
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	const finish = async () => {
		try {
			await api('POST /rounds/:id/finish', {
				params: { id: walk.id },
				body: { left_out: open.map((s) => ({ station: s.station, reason: reasons[s.station] ?? '' })) },
			});
			location.href = `/?done=${walk.id}`;
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	// biome-ignore lint/correctness/useExhaustiveDependencies: once, when the last stop is done
	useEffect(() => {
		if (walk.stops.length > 0 && open.length === 0) finish();
	}, [open.length]);
	return (
		<div
			className="mt-3 border-t border-line pt-2"
			data-walk={`${walk.stops.length - open.length}/${walk.stops.length}`}
		>
			<p>
				<strong>
					{walk.stops.length - open.length} of {walk.stops.length}
				</strong>{' '}
				done
			</p>
			{ending ? (
				<form
					onSubmit={(e) => {
						e.preventDefault();
						finish();
					}}
				>
					{open.map((s) => (
						<label key={s.station} className="block mb-1">
							<span className="field-label">{name(s.station)} left out because</span>
							<input
								className="field"
								value={reasons[s.station] ?? ''}
								maxLength={500}
								onChange={(e) => setReasons({ ...reasons, [s.station]: e.target.value })}
							/>
						</label>
					))}
					<button type="submit" className="act">
						Finish the round
					</button>
				</form>
			) : (
				<div className="flex flex-wrap gap-2 mt-1">
					{open.length > 1 && open.some((s) => s.station === current) && (
						<button type="button" tabIndex={-1} className="act !font-normal" onClick={onSkip}>
							Pass {name(current)}
						</button>
					)}
					<button type="button" tabIndex={-1} className="act !font-normal" onClick={() => setEnding(true)}>
						Finish the round
					</button>
				</div>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</div>
	);
}
