import { Dialog } from '../ui/Dialog';

const KEYS = [
	['/', 'quick line'],
	['b', 'Bench: take a reading'],
	['r', 'Round'],
	['g', 'Round: start or go on with the walk'],
	['↑  ↓', 'Bench and Round: the station before, the next'],
	['c', 'Calibrate a probe'],
	['m', 'Mix'],
	['d', 'Root zone: drain beside feed'],
	['t', 'Trends'],
	['←  →', 'Trends, lines together: earlier, later'],
	['+  −', 'Trends, lines together: closer, wider'],
	['l', 'Ledger'],
	['e', 'Events'],
	['v', 'Review: what wants a decision'],
	['w', 'Watch: what goes on'],
	['y  a  o', 'Review: keep, ask for a retest, open all that is known of it'],
	['j  k', 'next, previous in a list'],
	['Enter', 'open the row; in the quick line: save'],
	['x', 'Ledger: choose the row, to change many at once'],
	['f', 'Bench: take the suggested value'],
	['u', 'undo the last entry'],
	['Esc', 'leave a field or this list'],
] as const;

/** Every key there is. */
export default function Keys({ onClose }: { onClose: () => void }) {
	return (
		<Dialog label="Keys" onClose={onClose}>
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
		</Dialog>
	);
}
