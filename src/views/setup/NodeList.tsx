import { api } from '../data/client';
import { askAgain, useAsked } from '../data/queries';
import { AddByName } from '../ui/controls';
import { codeFrom } from './code';
import type { SetupTools } from './use-setup';

/** The sensor nodes of a site, each to be chosen, and the way to another. */
export function NodeList({ tools: { s, set } }: { tools: SetupTools }) {
	const nodes = useAsked('GET /nodes', {}).data?.nodes ?? [];
	const first = s.stations.find((x) => !x.retired && x.kind === 'reservoir') ?? s.stations.find((x) => !x.retired);
	const add = async (name: string) => {
		set({ said: '', problem: '' });
		try {
			const made = await api('POST /nodes', { body: { code: codeFrom(name), name, station: first!.code } });
			await askAgain();
			set({
				chosen: { kind: 'node', code: made.code },
				said: `${name} is made. Say where it stands, then make its token.`,
			});
		} catch (error) {
			set({ problem: (error as Error).message });
		}
	};
	return (
		<>
			<h2 className="mt-4">Sensor nodes</h2>
			<ul>
				{nodes.map((n) => {
					const chosen = s.chosen.kind === 'node' && s.chosen.code === n.code;
					return (
						<li key={n.code} className="flex">
							<button
								type="button"
								aria-pressed={chosen}
								data-thing={`node ${n.code}`}
								onClick={() => set({ chosen: { kind: 'node', code: n.code }, said: '', problem: '' })}
								className={`grow text-left px-2 min-h-10 border-l-4 cursor-pointer ${chosen ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
							>
								{n.name}
								{n.retired && <span className="text-soft"> (retired)</span>}
							</button>
						</li>
					);
				})}
			</ul>
			{first && <AddByName label="Add a sensor node" onAdd={(name) => void add(name)} />}
		</>
	);
}
