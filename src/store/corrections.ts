import type { Db } from './pool';
import { read } from './read';
import { CURRENT, JUDGED, type JudgedReading, judgedReading } from './readings';

/** Every row that a reading replaced or was replaced by, oldest first. */
export async function correctionChain(db: Db, siteId: number, id: number): Promise<JudgedReading[]> {
	const rows = await read(
		db,
		judgedReading,
		`WITH RECURSIVE back AS (
			SELECT id, supersedes FROM reading WHERE site_id = $1 AND id = $2
			UNION SELECT r.id, r.supersedes FROM reading r JOIN back b ON r.id = b.supersedes AND r.site_id = $1
		), forth AS (
			SELECT id FROM back UNION SELECT r.id FROM reading r JOIN forth f ON r.supersedes = f.id AND r.site_id = $1
		) SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = ANY(ARRAY(SELECT id FROM forth)) ORDER BY id`,
		[siteId, id],
	);
	return rows;
}

/** What stands of a sample: neither corrected nor taken back, in the order of entry. */
export const standingOfSample = (db: Db, siteId: number, sampleId: number): Promise<JudgedReading[]> =>
	read(
		db,
		judgedReading,
		`SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND sample_id = $2 AND ${CURRENT} ORDER BY id`,
		[siteId, sampleId],
	);
