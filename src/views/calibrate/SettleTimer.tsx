import { useEffect, useState } from 'react';

const KEY = 'cordwain.settle';

/** Times how long the probe takes to settle. The start is kept as a moment, so a locked screen does not stop it. */
export function SettleTimer({ onSettled }: { onSettled: (seconds: number | null) => void }) {
	const [from, setFrom] = useState<number | null>(null);
	const [now, setNow] = useState(0);
	const [took, setTook] = useState<number | null>(null);
	useEffect(() => {
		const kept = Number(localStorage.getItem(KEY));
		if (kept > 0 && Date.now() - kept < 1_800_000) setFrom(kept);
		setNow(Date.now());
	}, []);
	useEffect(() => {
		if (from === null) return;
		const timer = setInterval(() => setNow(Date.now()), 250);
		return () => clearInterval(timer);
	}, [from]);
	const seconds = from === null ? 0 : Math.max(0, Math.round((now - from) / 1000));
	return (
		<span className="inline-flex items-center gap-2">
			<button
				type="button"
				className="act !font-normal min-w-40"
				onClick={() => {
					if (from === null) {
						const at = Date.now();
						localStorage.setItem(KEY, String(at));
						setFrom(at);
						setNow(at);
						setTook(null);
						onSettled(null);
					} else {
						localStorage.removeItem(KEY);
						setTook(seconds);
						setFrom(null);
						onSettled(seconds);
					}
				}}
			>
				{from === null ? 'Time the settling' : `${seconds} s · it has settled`}
			</button>
			{took !== null && (
				<span>
					settled in {took} s{took > 60 ? ', slow' : ''}
				</span>
			)}
		</span>
	);
}
