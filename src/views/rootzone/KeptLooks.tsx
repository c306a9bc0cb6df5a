import { useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import type { ExtractMethod } from '@/core/rootzone/extract';
import { EXTRACT_WORDS } from '@/words/en/extract';
import { understandField } from '../bench/understand';
import { api } from '../data/client';
import { useAsked } from '../data/queries';
import { enter } from '../data/queue';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { ecWithUnit } from '../mix/typed';
import { shortDay } from '../ui/format';

const SHOWN = 4;

/**
 * What was read by one way of looking into the medium, kept at a station of its own: two ways never share an axis.
 */
export function KeptLooks({
	system,
	method,
	typed,
	usual,
	site,
	onDone,
}: {
	system: { code: string; name: string };
	method: ExtractMethod;
	/** What stands in the field. */
	typed: string;
	usual: string | null;
	site: SiteView;
	onDone: (said: string, problem: string) => void;
}) {
	const code = `${system.code}-${method}`;
	const name = `${system.name}, ${EXTRACT_WORDS[method].name.toLowerCase()}`;
	const [there, setThere] = useState(site.stations.some((s) => s.info.code === code));
	const [instrument, setInstrument] = useState(usual ?? '');
	const before = useAsked('GET /readings', { query: { station: code, order: 'newest', limit: SHOWN } }, there);
	const kept = (before.data?.readings ?? []).filter((r) => r.quantity === 'ec' || r.quantity === 'tds');
	const read = understandField('ec', typed, null, site.units, null);
	async function keep() {
		if (read.state !== 'value') return;
		try {
			if (!there) await api('POST /stations', { body: { code, name, kind: 'root_zone', system: system.code } });
			setThere(true);
			const body = {
				station: code,
				quantity: read.quantity,
				value: read.digits,
				unit: read.unit,
				instrument: instrument || null,
				time: new Date().toISOString(),
			};
			const result = await enter('POST /readings', { body }, `a reading of ${name}`);
			onDone(result.kind === 'stored' ? `Kept at ${name}.` : result.message, '');
		} catch (error) {
			onDone('', (error as Error).message);
		}
	}
	return (
		<div className="flex flex-wrap gap-x-4 gap-y-2 items-end my-2" data-kept-looks={kept.length}>
			{read.state === 'value' && (
				<>
					<InstrumentChoice
						label="Measured with"
						width="w-44"
						site={site}
						value={instrument}
						unsaid
						onChange={setInstrument}
					/>
					<button type="button" className="act" onClick={keep}>
						Keep this reading
					</button>
				</>
			)}
			{kept.length > 0 && (
				<p className="text-[0.95rem]">
					By this way before:{' '}
					{kept
						.map(
							(r) => `${ecWithUnit(r.canonical_value, site.units)} on ${shortDay(Date.parse(r.time), site.timezone)}`,
						)
						.join(', ')}
					.{' '}
					<a className="underline" href={`/trends?station=${encodeURIComponent(code)}`}>
						over time
					</a>
				</p>
			)}
		</div>
	);
}
