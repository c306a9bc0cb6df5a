import { useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { save } from '../entry/sample';

/** The pH of a tank, read where it is needed: nothing is dosed on an old or doubtful one. */
export function ReadPh({
	station,
	note,
	words,
	onRead,
}: {
	station: string;
	note: string;
	words: string;
	onRead: () => void;
}) {
	const [ph, setPh] = useState('');
	const [problem, setProblem] = useState('');
	return (
		<form
			className="flex flex-wrap gap-3 items-end"
			onSubmit={async (e) => {
				e.preventDefault();
				const value = decimal(ph.trim());
				if (value === undefined || !(value >= 0 && value <= 14)) return setProblem('Type the pH that the pen shows.');
				try {
					await save([
						{
							station,
							instrument: null,
							values: [{ quantity: 'ph', digits: ph.trim().replace(',', '.'), unit: 'pH' }],
							note,
							at: Date.now(),
							source: 'bench',
						},
					]);
					setPh('');
					onRead();
				} catch (error) {
					setProblem((error as Error).message);
				}
			}}
		>
			<p className="w-full">{words}</p>
			<label className="block w-32">
				<span className="field-label">pH now</span>
				<input
					id="read-ph"
					className="field !text-[1.4rem]"
					inputMode="decimal"
					autoComplete="off"
					value={ph}
					onChange={(e) => setPh(e.target.value)}
				/>
			</label>
			<button type="submit" className="act act-main">
				Enter
			</button>
			{problem && <p className="text-error w-full">{problem}</p>}
		</form>
	);
}
