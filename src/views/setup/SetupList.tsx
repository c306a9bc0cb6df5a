import { type KeyboardEvent, useRef } from 'react';
import { AddByName } from '../ui/controls';
import { useWalk } from '../ui/use-walk';
import { codeFrom } from './code';
import { NodeList } from './NodeList';
import type { Kind, SetupTools } from './use-setup';

type Thing = { code: string; name?: string | undefined; retired?: boolean | undefined };

/** Everything that was set up; the line in its order, which is changed by dragging, by its arrows, or by Alt with the arrow keys. */
export function SetupList({ tools }: { tools: SetupTools }) {
	const { s, set, move, saveStation, saveSystem, saveInstrument } = tools;
	const isChosen = (kind: Kind, code: string) => s.chosen.kind === kind && 'code' in s.chosen && s.chosen.code === code;
	const list = useRef<HTMLElement>(null);
	useWalk(list, '[data-thing]');
	const item = (kind: Kind, x: Thing) => (
		<button
			type="button"
			aria-pressed={isChosen(kind, x.code)}
			data-thing={`${kind} ${x.code}`}
			onClick={() => set({ chosen: { kind, code: x.code }, said: '', problem: '' })}
			className={`grow text-left px-2 min-h-10 border-l-4 cursor-pointer ${isChosen(kind, x.code) ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
		>
			{x.name ?? x.code}
		</button>
	);
	const used = <T extends Thing>(list: readonly T[]) => list.filter((x) => !x.retired);
	const line = used(s.stations);
	const retired = (['station', 'system', 'instrument'] as const).flatMap((kind) =>
		s[`${kind}s`].filter((x) => x.retired).map((x) => [kind, x] as const),
	);
	const onKey = (e: KeyboardEvent, i: number, code: string) => {
		if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
		e.preventDefault();
		move(code, i + (e.key === 'ArrowUp' ? -1 : 1));
	};
	return (
		<nav ref={list} aria-label="What was set up">
			<button
				type="button"
				aria-pressed={s.chosen.kind === 'site'}
				data-thing="site"
				onClick={() => set({ chosen: { kind: 'site' }, said: '', problem: '' })}
				className={`w-full text-left px-2 min-h-10 border-l-4 cursor-pointer ${s.chosen.kind === 'site' ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
			>
				The site
			</button>
			<h2 className="mt-3">Stations, as the water runs</h2>
			<ol>
				{line.map((x, i) => (
					<li
						key={x.code}
						className="flex items-center"
						draggable
						onDragStart={(e) => e.dataTransfer.setData('text/plain', x.code)}
						onDragOver={(e) => e.preventDefault()}
						onDrop={(e) => {
							e.preventDefault();
							move(e.dataTransfer.getData('text/plain'), i);
						}}
						onKeyDown={(e) => onKey(e, i, x.code)}
					>
						{item('station', x)}
						<button
							type="button"
							className="min-h-10 min-w-10 cursor-pointer text-soft disabled:opacity-30"
							aria-label={`${x.name ?? x.code} one place up`}
							disabled={i === 0}
							onClick={() => move(x.code, i - 1)}
						>
							↑
						</button>
						<button
							type="button"
							className="min-h-10 min-w-10 cursor-pointer text-soft disabled:opacity-30"
							aria-label={`${x.name ?? x.code} one place down`}
							disabled={i === line.length - 1}
							onClick={() => move(x.code, i + 1)}
						>
							↓
						</button>
					</li>
				))}
			</ol>
			<AddByName
				label="Add a station"
				onAdd={(name) => saveStation({ code: codeFrom(name), name, kind: 'reservoir' })}
			/>
			<h2 className="mt-4">Systems</h2>
			<ul>
				{used(s.systems).map((x) => (
					<li key={x.code} className="flex">
						{item('system', x)}
					</li>
				))}
			</ul>
			<AddByName label="Add a system" onAdd={(name) => saveSystem({ code: codeFrom(name), name, kind: 'bucket' })} />
			<h2 className="mt-4">Instruments</h2>
			<ul>
				{used(s.instruments).map((x) => (
					<li key={x.code} className="flex">
						{item('instrument', x)}
					</li>
				))}
			</ul>
			<AddByName
				label="Add an instrument"
				onAdd={(name) => saveInstrument({ code: codeFrom(name), name, kind: 'combined' })}
			/>
			<NodeList tools={tools} />
			{retired.length > 0 && (
				<details className="mt-4" data-retired>
					<summary className="cursor-pointer text-soft min-h-8">Retired: {retired.length}</summary>
					<ul>
						{retired.map(([kind, x]) => (
							<li key={`${kind}${x.code}`} className="flex">
								{item(kind, x)}
							</li>
						))}
					</ul>
				</details>
			)}
		</nav>
	);
}
