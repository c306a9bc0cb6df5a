import { useState } from 'react';
import { createRoot } from 'react-dom/client';
import { Attached } from '@/views/entry/Attached';
import { OpensEvent, OpensReading } from '@/views/entry/OpensButton';
import { onOpen } from '@/views/entry/opens';
import { ApexFigure } from '@/views/ui/ApexFigure';
import { DataTable } from '@/views/ui/DataTable';
import { DayField } from '@/views/ui/DayField';
import { Dialog } from '@/views/ui/Dialog';
import { NameBox } from '@/views/ui/NameBox';
import { Notice } from '@/views/ui/Notice';
import { NumberField } from '@/views/ui/NumberField';
import { newTable, type TableState } from '@/views/ui/table-state';

/** The shared parts of the views, each on a page by itself, for tests/e2e/parts.test.ts. What a part tells is in `data-told`. */
const PARTS: Record<string, (told: { tell: (what: unknown) => void }) => React.ReactNode> = {
	day: function Day({ tell }) {
		return <DayField label="Day" day="" zone="Europe/Amsterdam" onDay={tell} />;
	},
	name: function Name({ tell }) {
		const [name, setName] = useState('');
		return (
			<NameBox
				label="Of what"
				width="w-52"
				value={name}
				onChange={(n) => {
					setName(n);
					tell(n);
				}}
				names={['feed A and B', 'silicate', 'pH down']}
			/>
		);
	},
	dialog: function Opens({ tell }) {
		const [open, setOpen] = useState(false);
		return (
			<>
				<button type="button" id="opens" onClick={() => setOpen(true)}>
					open
				</button>
				<a href="#elsewhere" id="beneath">
					beneath
				</a>
				{open && (
					<Dialog
						label="A reading"
						data-here={7}
						onClose={() => {
							setOpen(false);
							tell('closed');
						}}
					>
						<input aria-label="within" />
					</Dialog>
				)}
			</>
		);
	},
	number: function Typed({ tell }) {
		const [text, setText] = useState('');
		return (
			<NumberField
				id="ph"
				label="pH"
				unit=""
				hue="red"
				text={text}
				expected="6.1"
				said={text === '' ? '' : `${text} it is`}
				wrong={text === 'x'}
				register={() => {}}
				onText={setText}
				onKey={(e) => e.key === 'Enter' && tell(text)}
			/>
		);
	},
	notice: function Says() {
		return (
			<>
				<Notice said="Saved." problem="" />
				<Notice said="Saved." problem="It was not." />
			</>
		);
	},
	table: function Rows({ tell }) {
		const [state, set] = useState<TableState>(newTable([{ id: 'ph', desc: false }]));
		return (
			<DataTable
				rows={[
					{ code: 'pond', ph: 6.4 },
					{ code: 'slabs', ph: 5.8 },
					{ code: 'mix', ph: 6.1 },
				]}
				columns={[
					{ id: 'code', name: 'station', of: (r) => r.code, cell: (r) => r.code },
					{ id: 'ph', name: 'pH', of: (r) => r.ph, cell: (r) => r.ph },
				]}
				idOf={(r) => r.code}
				nameOf={(r) => r.code}
				state={state}
				onState={(change) => {
					set((s) => ({ ...s, ...change }));
					if (change.chosen) tell(Object.keys(change.chosen));
				}}
				opened={(r) => <em>all of {r.code}</em>}
			/>
		);
	},
	chart: function Chart() {
		return (
			<ApexFigure
				name="ph"
				label="pH over time, two points"
				type="line"
				height={160}
				drawnAnew=""
				options={{ xaxis: { type: 'datetime' }, chart: { zoom: { enabled: true } } }}
				series={[
					{
						name: 'pH',
						data: [
							{ x: 1e12, y: 6.1 },
							{ x: 1.1e12, y: 6.4 },
						],
					},
				]}
			/>
		);
	},
	attached: function Photos() {
		return <Attached of={{ event: 7 }} />;
	},
	opens: function Both({ tell }) {
		onOpen(tell);
		return (
			<>
				<OpensReading id={3}>6.1</OpensReading> <OpensReading id={null}>a jug</OpensReading>{' '}
				<OpensEvent id={4}>acid</OpensEvent>
			</>
		);
	},
};

function Page() {
	const [told, tell] = useState<unknown>(null);
	const Part = PARTS[location.hash.slice(1)]!;
	return (
		<main data-told={JSON.stringify(told)}>
			<Part tell={tell} />
		</main>
	);
}
createRoot(document.getElementById('root')!).render(<Page />);
