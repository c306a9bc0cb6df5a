import { addressOf } from '../data/client';

/** What goes out and comes in again, with how it looks inside. */
const FILES = [
	{
		name: 'readings.csv',
		href: addressOf('GET /readings', { query: { format: 'csv' } }),
		holds: 'Every reading as it was typed, with what the checks said of it.',
		looks:
			'time,station,instrument,quantity,value,unit,temp_c,wait_s,note\n2026-03-01T07:30:00Z,pond,plum,ph,5.80,pH,21.4,30,',
	},
	{
		name: 'events.csv',
		href: addressOf('GET /events', { query: { format: 'csv' } }),
		holds: 'What was poured, drained, changed, cleaned and noted.',
		looks: 'time,station,kind,amount,unit,product,note\n2026-03-01T16:20:00Z,pond,acid_added,35,mL,pH down,',
	},
	{
		name: 'calibrations.csv',
		href: addressOf('GET /calibrations', { query: { format: 'csv' } }),
		holds: 'A line for each standard that a probe was in.',
		looks:
			'time,instrument,quantity,kind,standard,nominal,as_found,as_left,temp_c,note\n2026-03-01T07:00:00Z,plum,ph,adjust,pH 7.00,7.02,7.10,7.02,20,',
	},
	{
		name: 'irrigations.csv',
		href: addressOf('GET /irrigations', { query: { format: 'csv' } }),
		holds: 'Runs that were measured: what was given, and what ran off.',
		looks:
			'time,system,minutes,first_drain_min,applied_l,applied_cups_ml,drained_l,drained_cups_ml,note\n2026-03-01T07:42:00Z,gutters,6,4.5,,101 97 104,,95 88 102,',
	},
] as const;
const ALSO = [
	{
		name: 'photos and files, zip',
		href: addressOf('GET /attachments', { query: { format: 'zip' } }),
		holds: 'What was attached, with a table that says to which reading or event.',
	},
	{
		name: 'restatements.csv',
		href: addressOf('GET /restatements', {}),
		holds: 'What later calibrations made of earlier readings, and by how much.',
	},
] as const;

const WHOLE = {
	name: 'everything, zip',
	href: addressOf('GET /export.zip', {}),
	holds:
		'The whole book with all that belongs to it, without passphrases: a table and its schema each, with counts and digests. It comes back into an empty Cordwain as it was.',
};

/** Everything taken out of the book in open formats. */
export function TakeOut() {
	const row = (f: { name: string; href: string; holds: string; looks?: string }) => (
		<li key={f.name} className="border-t border-line py-2">
			<a className="act" href={f.href} download>
				{f.name}
			</a>{' '}
			<span className="text-soft">{f.holds}</span>
			{f.looks && <pre className="mt-1 text-[0.78rem] text-soft whitespace-pre-wrap break-all">{f.looks}</pre>}
		</li>
	);
	return (
		<section className="note-rule">
			<h2>Take everything out</h2>
			<p className="text-soft mb-2">
				Open formats. Readings, events, calibrations and irrigations come in again as they went out, and change nothing.
				Grey: how one begins.
			</p>
			<ul>{[WHOLE, ...FILES, ...ALSO].map(row)}</ul>
			<p className="text-soft text-[0.92rem]">
				For a spreadsheet that takes a cell for a formula: the same with{' '}
				<a className="underline" href={`${FILES[0].href}&for=spreadsheet`} download="readings-to-look-at.csv">
					readings to look at
				</a>
				; such a file does not come in again.
			</p>
		</section>
	);
}
