import { useState } from 'react';
import { decimal } from '@/core/quantity';

/** Values usually printed on the card of a wide-range pH drop kit (common practice, no source). */
export const USUAL_PRINTED = [4, 4.5, 5, 5.5, 6, 6.5, 7, 7.5, 8];

/** What picking one or two neighbouring printed values says: from half-way to the one below to half-way above. */
export function printedInterval(printed: readonly number[], picked: readonly number[]): [number, number] | null {
	const list = [...printed].sort((a, b) => a - b);
	const at = picked.map((p) => list.indexOf(p)).sort((a, b) => a - b);
	if (at.length === 0 || at.length > 2 || at.includes(-1)) return null;
	if (at.length === 2) return at[1]! - at[0]! === 1 ? [list[at[0]!]!, list[at[1]!]!] : null;
	const i = at[0]!;
	const below = i > 0 ? (list[i]! - list[i - 1]!) / 2 : (list[1]! - list[0]!) / 2;
	const above = i < list.length - 1 ? (list[i + 1]! - list[i]!) / 2 : below;
	return [list[i]! - below, list[i]! + above];
}

/** A drop kit read by its printed values: pick the one it matches, or the two that it lies between. */
export function DropKit({
	printed,
	onPick,
	onPrinted,
}: {
	printed: readonly number[];
	onPick: (interval: string) => void;
	onPrinted: (values: number[]) => void;
}) {
	const [picked, setPicked] = useState<number[]>([]);
	const [own, setOwn] = useState('');
	const pick = (v: number) => {
		const next = picked.includes(v) ? picked.filter((p) => p !== v) : [...picked, v].slice(-2);
		const interval = printedInterval(printed, next);
		// Two that are not neighbours cannot both match: the newer one counts.
		const kept = interval ? next : [v];
		setPicked(kept);
		const found = printedInterval(printed, kept);
		onPick(found && kept.length > 0 ? `${Number(found[0].toFixed(2))}..${Number(found[1].toFixed(2))}` : '');
	};
	return (
		<section className="border-t border-line pt-2 mt-3" aria-label="Drop kit" data-drop-kit>
			<h2>Which printed value does it match?</h2>
			<div className="flex flex-wrap gap-1.5 my-1">
				{printed.map((v) => (
					<button
						key={v}
						type="button"
						aria-pressed={picked.includes(v)}
						className={`act ${picked.includes(v) ? 'act-main' : '!font-normal'}`}
						onClick={() => pick(v)}
					>
						{v}
					</button>
				))}
			</div>
			<p className="text-soft text-[0.9rem] max-w-[70ch]">
				Between two? Pick both. A kit gives an interval, not a number. About one man in twelve and one woman in two
				hundred cannot tell some of these colours apart: let somebody else name the value, or use a pen.
			</p>
			<details className="text-soft">
				<summary className="cursor-pointer min-h-8">other values on your card</summary>
				<form
					className="flex gap-2 items-end py-1"
					onSubmit={(e) => {
						e.preventDefault();
						const values = own
							.split(/[\s;]+/)
							.map((t) => decimal(t))
							.filter((v): v is number => v !== undefined && v >= 0 && v <= 14);
						if (values.length >= 2) onPrinted([...new Set(values)].sort((a, b) => a - b));
					}}
				>
					<label className="block w-72">
						<span className="field-label">Printed pH values, with blanks between</span>
						<input
							className="field"
							value={own}
							placeholder={printed.join(' ')}
							onChange={(e) => setOwn(e.target.value)}
						/>
					</label>
					<button type="submit" className="act !font-normal">
						Keep
					</button>
				</form>
			</details>
		</section>
	);
}
