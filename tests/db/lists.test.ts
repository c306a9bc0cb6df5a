import { expect, it } from 'vitest';
import { DECISIONS } from '@/contract/readings';
import { AERATION } from '@/core/chem/degassing';
import { BATCH_STEPS } from '@/core/mix/batch-course';
import { PROBE_EVENT_KINDS, STORAGES } from '@/core/probe/care';
import { QUANTITIES } from '@/core/quantity';
import { EVENT_KINDS, STATION_KINDS, SYSTEM_KINDS } from '@/core/reading/model';
import { INSTRUMENT_KINDS } from '@/core/reading/protocol';
import { DOUBTED_FLAGS, OPEN_AGAIN } from '@/core/trust/trust';
import { withDatabase } from '../helpers/database';

/** What is listed in both places: by table and column. */
const LISTED: Record<string, readonly string[]> = {
	'station.kind': STATION_KINDS,
	'system.kind': SYSTEM_KINDS,
	'station.aeration': Object.keys(AERATION),
	'system.aeration': Object.keys(AERATION),
	'instrument.kind': INSTRUMENT_KINDS,
	'reading.quantity': QUANTITIES,
	'decision.kind': DECISIONS,
	'event.kind': EVENT_KINDS,
	'batch_step.step': BATCH_STEPS,
	'probe.storage': STORAGES,
	'probe_event.kind': PROBE_EVENT_KINDS,
};

it('lists in the database and in the code hold the same', () =>
	withDatabase('empty', async (pool) => {
		const { rows } = await pool.query<{ name: string; text: string }>(
			`SELECT c.conrelid::regclass || '.' || a.attname AS name, pg_get_constraintdef(c.oid) AS text
			FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
			WHERE c.contype = 'c' AND pg_get_constraintdef(c.oid) LIKE '%ANY%ARRAY[%'`,
		);
		const inDatabase = new Map(rows.map((r) => [r.name, [...r.text.matchAll(/'([^']+)'/g)].map((m) => m[1]!).sort()]));
		for (const [name, list] of Object.entries(LISTED))
			expect([name, inDatabase.get(name)]).toEqual([name, [...list].sort()]);
	}));

it('the index of what is open holds what core/trust calls open', () =>
	withDatabase('empty', async (pool) => {
		const { rows } = await pool.query<{ text: string }>(
			"SELECT pg_get_indexdef(indexrelid) AS text FROM pg_index WHERE indexrelid = 'verdict_open'::regclass",
		);
		const { text } = rows[0]!;
		expect([...text.matchAll(/'([a-z]+)'/g)].map((m) => m[1]).sort()).toEqual([...OPEN_AGAIN].sort());
		expect([...(/ARRAY\[([\d, ]+)\]/.exec(text)?.[1] ?? '').matchAll(/\d+/g)].map(Number)).toEqual([...DOUBTED_FLAGS]);
	}));
