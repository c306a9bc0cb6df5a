import { useEffect, useRef } from 'react';

const KEYS = [
	['/', 'quick line'],
	['b', 'Bench: take a reading'],
	['r', 'Round'],
	['g', 'Round: start or go on with the walk'],
	['↑  ↓', 'Bench and Round: the station before, the next'],
	['c', 'Calibrate a probe'],
	['m', 'Mix'],
	['t', 'Trends'],
	['l', 'Ledger'],
	['e', 'Events'],
	['v', 'Review: what wants a decision'],
	['y  a  o', 'Review: keep, ask for a retest, open all that is known of it'],
	['j  k', 'next, previous in a list'],
	['Enter', 'open the row; in the quick line: save'],
	['x', 'Ledger: choose the row, to change many at once'],
	['f', 'Bench: take the suggested value'],
	['u', 'undo the last entry'],
	['Esc', 'leave a field or this list'],
] as const;

export function Keys({ onClose }: { onClose: () => void }) {
	const dialog = useRef<HTMLDialogElement>(null);
	useEffect(() => dialog.current?.showModal(), []);
	return (
		<dialog
			ref={dialog}
			onClose={onClose}
			className="m-auto border border-line bg-base-100 text-base-content p-5 rounded min-w-80"
			aria-label="Keys"
		>
			<h2 className="mb-2">Keys</h2>
			<dl className="grid grid-cols-[5rem_1fr] gap-y-1.5">
				{KEYS.map(([key, what]) => (
					<div key={key} className="contents">
						<dt>
							<kbd>{key}</kbd>
						</dt>
						<dd>{what}</dd>
					</div>
				))}
			</dl>
			<button type="button" className="act mt-4" onClick={() => dialog.current?.close()}>
				Close
			</button>
		</dialog>
	);
}
