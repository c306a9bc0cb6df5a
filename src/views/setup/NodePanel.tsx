import { useState } from 'react';
import type { SensorNode } from '@/contract/sensors';
import { QUANTITY } from '@/core/quantity';
import { api } from '../data/client';
import { askAgain, useAsked } from '../data/queries';
import { useCheckedForm } from '../ui/checked-form';
import { ago } from '../ui/format';
import { Choice, Text, Tick } from './fields';
import { nodeValues, readNode } from './node-values';
import type { SetupTools } from './use-setup';

/** One sensor node: where it stands, how long its samples are kept, its token, and what it has told so far. */
export function NodePanel({ code, tools }: { code: string; tools: SetupTools }) {
	const node = useAsked('GET /nodes', {}).data?.nodes.find((n) => n.code === code);
	if (!node) return null;
	return (
		<>
			<NodeForm key={JSON.stringify({ ...node, heard_at: null, series: [] })} node={node} tools={tools} />
			<NodeToken node={node} />
			<Told node={node} />
		</>
	);
}

function NodeForm({ node, tools }: { node: SensorNode; tools: SetupTools }) {
	const { s, set } = tools;
	const form = useCheckedForm({
		address: 'POST /nodes',
		first: nodeValues(node),
		read: (v) => ({ ok: true, body: readNode(node, v) }),
	});
	const stations = s.stations.filter((x) => !x.retired || x.code === node.station);
	const save = form.handleSubmit(async (v) => {
		set({ said: '', problem: '' });
		try {
			const saved = await api('POST /nodes', { body: readNode(node, v) });
			await askAgain();
			set({ said: `${saved.name} saved.` });
		} catch (error) {
			set({ problem: (error as Error).message });
		}
	});
	return (
		<form className="grid gap-4" data-form={`node ${node.code}`} {...form.steady} onSubmit={save}>
			<h2 className="text-[1.2rem]">
				{node.name} <span className="text-soft text-[0.85rem] font-normal">in files and the API: {node.code}</span>
			</h2>
			<Text form={form} name="name" label="Name" />
			<Choice
				form={form}
				name="station"
				label="It stands at"
				options={stations.map((x) => x.code)}
				labels={Object.fromEntries(stations.map((x) => [x.code, x.name ?? x.code]))}
				hint="What it sends from now on belongs to this station; what it sent stays where it was."
			/>
			<Text
				form={form}
				name="keep_days"
				label="Keep single samples for, days"
				mode="decimal"
				width="max-w-60"
				hint="Empty keeps all of them. Least, greatest and mean of every five minutes, hour and day always stay."
			/>
			<Tick form={form} name="retired">
				retired: it may send no more, what it sent stays
			</Tick>
			<div>
				<button type="submit" className="act act-main" disabled={form.formState.isSubmitting}>
					Save
				</button>
			</div>
		</form>
	);
}

/** The token of a node is shown when it is made, and never again. */
function NodeToken({ node }: { node: SensorNode }) {
	const [token, setToken] = useState('');
	const [problem, setProblem] = useState('');
	const attempt = async (work: () => Promise<void>) => {
		setProblem('');
		try {
			await work();
			await askAgain();
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const make = () =>
		attempt(async () => {
			const made = await api('POST /nodes/:code/token', { params: { code: node.code } });
			setToken(made.token);
		});
	const revoke = () =>
		attempt(async () => {
			await api('DELETE /nodes/:code/token', { params: { code: node.code } });
			setToken('');
		});
	return (
		<section className="border-t border-line mt-5 pt-3" aria-label="Token">
			<h3 className="font-bold">Token</h3>
			<p className="text-soft max-w-[60ch]">
				{node.token_made_at === null
					? 'It has none yet: it cannot send. Whoever has a token can send in the name of this node, and do nothing else.'
					: 'It has one. A new one takes its place: the old is of no use from then on.'}
			</p>
			{token !== '' && (
				<p className="my-2">
					<code className="block bg-lit border border-line p-2 break-all select-all" data-token>
						{token}
					</code>
					<span className="text-soft">Write it into the node now. It is shown this once and kept nowhere.</span>
				</p>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			<div className="flex flex-wrap gap-2 mt-2">
				<button type="button" className="act" data-make-token onClick={() => void make()}>
					{node.token_made_at === null ? 'Make a token' : 'Make a new token'}
				</button>
				{node.token_made_at !== null && (
					<button type="button" className="act !font-normal" onClick={() => void revoke()}>
						Revoke it
					</button>
				)}
			</div>
		</section>
	);
}

function Told({ node }: { node: SensorNode }) {
	if (node.series.length === 0)
		return <p className="text-soft mt-5 border-t border-line pt-3">It has sent nothing so far.</p>;
	return (
		<section className="border-t border-line mt-5 pt-3" aria-label="What it tells">
			<h3 className="font-bold">What it tells</h3>
			<table className="text-[0.92rem]">
				<tbody>
					{node.series.map((s) => (
						<tr key={`${s.instrument} ${s.quantity}`} className="border-t border-line">
							<th scope="row" className="pr-6 text-left font-normal">
								{QUANTITY[s.quantity].name}
							</th>
							<td className="pr-6">{s.newest_at === null ? '' : ago(Date.parse(s.newest_at), Date.now())}</td>
							<td className="pr-6 text-soft">
								{s.usual_s > 0
									? `every ${s.usual_s >= 90 ? `${Math.round(s.usual_s / 60)} min` : `${s.usual_s} s`}`
									: ''}
							</td>
							<td>
								<a
									className="underline"
									href={`/trends?part=lines&lines=${encodeURIComponent(`${node.station}.${s.quantity}`)}`}
								>
									look
								</a>
							</td>
						</tr>
					))}
				</tbody>
			</table>
		</section>
	);
}
