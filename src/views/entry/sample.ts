import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { NewReading } from '@/contract/readings';
import type { Engine } from '@/core/judge/engine';
import { QUANTITY, type Quantity, type Unit } from '@/core/quantity';
import { readingFromText, temperatureOf } from '@/core/reading/from-text';
import type { Reading, Verdict } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { fetchEverywhere } from '../data/engine';
import { enter } from '../data/queue';

/** A sample as a person is entering it, and how it is judged and sent. */
export interface DraftValue {
	quantity: Quantity;
	digits: string;
	unit: Unit;
	/** Null: the sample's own instrument. */
	instrument?: string | null;
	/** Of this value alone. */
	note?: string;
}
export interface DraftSample {
	station: string;
	instrument: string | null;
	values: DraftValue[];
	note: string;
	at: number | null;
	waitS?: number | null;
	/** Steps left out; undefined when nobody kept track. */
	skipped?: string[] | undefined;
	/** The round it is taken on. */
	round?: number | null;
	source: 'bench' | 'quick' | 'sheet';
}

const sampleTemp = (d: DraftSample): number | null => {
	const t = d.values.find((v) => v.quantity === 'temp');
	return t ? temperatureOf(t.digits, t.unit) : null;
};

export function readingsOf(d: DraftSample, at: number, site: SiteView): Reading[] {
	const tempC = sampleTemp(d);
	return d.values.flatMap((v) => {
		const read = readingFromText(
			{
				quantity: v.quantity,
				value: v.digits,
				unit: v.unit,
				tempC: v.quantity === 'temp' ? null : tempC,
				waitS: d.waitS ?? null,
			},
			{ ppmScale: null, altitudeM: site.settings.altitudeM },
		);
		if (!read.ok) return [];
		return [
			{
				...read.value,
				at,
				station: d.station,
				instrument: v.instrument ?? d.instrument ?? '',
				...(d.skipped ? { skipped: d.skipped } : {}),
			},
		];
	});
}

/** What the checks say of a draft; where they ask what other stations show, those are fetched and it is judged again. */
export function judgeDraft(engine: Engine, d: DraftSample, site: SiteView): Verdict[] {
	engine.askedElsewhere = false;
	const verdicts = engine.judge(readingsOf(d, d.at ?? Date.now(), site));
	if (engine.askedElsewhere) fetchEverywhere();
	return verdicts;
}

/** A sample as it is sent. */
export function bodyOf(d: DraftSample, at: number): NewReading[] {
	const tempC = sampleTemp(d);
	return d.values.map((v) => ({
		time: new Date(at).toISOString(),
		station: d.station,
		instrument: v.instrument ?? d.instrument,
		quantity: v.quantity,
		value: v.digits,
		unit: v.unit,
		temp_c: v.quantity === 'temp' ? null : tempC,
		wait_s: d.waitS ?? null,
		note: [v.note, d.note].filter(Boolean).join('; '),
		...(d.skipped && d.skipped.length > 0 ? { skipped: d.skipped } : {}),
	}));
}

/** Names this page, so that it can tell its own entries from those of others. */
export const PAGE = globalThis.crypto?.randomUUID?.() ?? String(Math.random()).slice(2);

const wordsOf = (drafts: readonly DraftSample[]): string =>
	drafts
		.map((d) => `${d.station} ${d.values.map((v) => `${QUANTITY[v.quantity].name} ${v.digits}`).join(', ')}`)
		.join('; ');

type Stored = Got<Contract['POST /readings']>;
export type SaveResult = { kind: 'stored'; at: number; stored: Stored } | { kind: 'kept'; message: string };

/** Stores samples, once; when the server or its database is away they wait on this device and are sent later. */
export async function save(drafts: readonly DraftSample[]): Promise<SaveResult> {
	const now = Date.now();
	const body = drafts.flatMap((d) => bodyOf(d, d.at ?? now));
	const { source, round } = drafts[0]!;
	const query = { source, page: PAGE, ...(round ? { round } : {}) };
	const result = await enter('POST /readings', { query, body }, wordsOf(drafts));
	return result.kind === 'stored' ? { kind: 'stored', at: now, stored: result.answer } : result;
}

/** The readings that a save stored, by number. */
export const idsOf = (stored: Stored): number[] => stored.samples.flatMap((s) => s.readings.map((r) => r.id));
