import { useEffect, useState } from 'react';

const clock = (ms: number): string => {
	const s = Math.max(Math.ceil(ms / 1000), 0);
	const minutes = Math.floor(s / 60);
	return minutes >= 60
		? `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')} h`
		: `${minutes}:${String(s % 60).padStart(2, '0')}`;
};

/** How long what was poured still wants to mix, counted down; and the word when it has. */
export function MixingWait({ mixedAt, of = 'dose' }: { mixedAt: number; of?: 'dose' | 'pour' | 'ec' }) {
	const [now, setNow] = useState(() => Date.now());
	const over = now >= mixedAt;
	useEffect(() => {
		if (over) return;
		const timer = setInterval(() => setNow(Date.now()), 1000);
		return () => clearInterval(timer);
	}, [over]);
	return (
		<p className="my-1 text-[1.1rem]" data-mixing={over ? 'mixed' : 'waiting'}>
			{over ? (
				of === 'pour' ? (
					'The one before has had its time: go on.'
				) : (
					'It has had its time to mix: read now.'
				)
			) : (
				<>
					Stir, and let it mix:{' '}
					<strong className="tabular-nums" role="timer">
						{clock(mixedAt - now)}
					</strong>{' '}
					still.{of === 'dose' && ' A pH read sooner is kept, and not dosed on.'}
				</>
			)}
		</p>
	);
}
