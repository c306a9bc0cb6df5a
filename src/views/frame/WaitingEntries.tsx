import { useEffect, useState } from 'react';
import { canKeepPages, isNearlyFull, keepStorage } from '../data/offline';
import { onQueueChange, sendWaiting, takeBack, tryAgain, type WaitingEntry, waitingEntries } from '../data/queue';
import { ago } from '../ui/format';

/** The queue of this browser as it is now; sends what waits while the page is open. */
function useQueue(): WaitingEntry[] {
	const [list, setList] = useState<WaitingEntry[]>([]);
	useEffect(() => {
		const look = () => void waitingEntries().then(setList, () => setList([]));
		look();
		void sendWaiting();
		const online = () => void sendWaiting();
		window.addEventListener('online', online);
		const stop = onQueueChange(look);
		return () => {
			stop();
			window.removeEventListener('online', online);
		};
	}, []);
	return list;
}

/** What was entered and is not stored yet: what waits, and what was refused with the reason and ways to mend it. */
export function WaitingEntries() {
	const list = useQueue();
	const [now, setNow] = useState(() => Date.now());
	// Nobody is told of an entry that is on its way and well.
	useEffect(() => {
		if (list.length === 0) return;
		const timer = setInterval(() => setNow(Date.now()), 1000);
		return () => clearInterval(timer);
	}, [list.length]);
	const [full, setFull] = useState(false);
	useEffect(() => {
		if (list.length === 0) return;
		keepStorage();
		void isNearlyFull().then(setFull);
	}, [list.length]);
	const refused = list.filter((e) => e.refused !== null);
	const waiting = list.filter((e) => e.refused === null && now - e.madeAt > SLOW_MS);
	if (waiting.length + refused.length === 0) return null;
	return (
		<div className="mt-2 border-l-4 border-warning pl-3 py-1" data-kept={waiting.length} data-refused={refused.length}>
			{full && (
				<p role="alert" className="text-error">
					This device has hardly any room left: what is entered next may not be kept. Make room, or write it on paper.
				</p>
			)}
			{waiting.length > 0 && (
				<details>
					<summary className="cursor-pointer">
						{waiting.length} {waiting.length === 1 ? 'entry waits' : 'entries wait'} on this device: Cordwain does not
						answer. Nothing is lost; {waiting.length === 1 ? 'it is' : 'they are'} sent as soon as it does.
						{!canKeepPages() && ' This page came without TLS and cannot be opened anew until then: leave it open.'}
					</summary>
					<ul className="pl-4 list-disc">
						{waiting.map((e) => (
							<li key={e.key}>
								{e.words}, {ago(e.madeAt, now)}
							</li>
						))}
					</ul>
				</details>
			)}
			{refused.map((e) => (
				<p key={e.key} className="my-1" data-refused-entry>
					<strong>{e.words}</strong>, entered {ago(e.madeAt, now)}, was not taken: {e.refused}{' '}
					<span className="inline-flex flex-wrap gap-1.5 align-middle">
						<button type="button" className="act !font-normal" onClick={() => tryAgain(e.key)}>
							Send it again
						</button>
						<button type="button" className="act !font-normal" onClick={() => takeBack(e.key)}>
							Throw it away
						</button>
						{e.address === 'POST /readings' && (
							<a className="act !font-normal inline-flex items-center" href={`/bench?station=${stationOf(e)}`}>
								Read it again at Bench
							</a>
						)}
					</span>
				</p>
			))}
		</div>
	);
}

/** An answer that takes longer is worth a word. */
const SLOW_MS = 1500;

const stationOf = (e: WaitingEntry): string => {
	const [first] = e.asked.body as { station?: string }[];
	return encodeURIComponent(first?.station ?? '');
};
