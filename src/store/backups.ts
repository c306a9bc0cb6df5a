import { z } from 'zod';
import type { Db } from './pool';
import { idRow, read, time } from './read';

const row = z.strictObject({
	id: z.number(),
	at: time,
	file: z.string(),
	bytes: z.number(),
	sha256: z.string(),
	verifiedAt: time.nullable(),
	problem: z.string(),
});
export type BackupRow = z.output<typeof row>;

/** Backups that are still there, the newest first. */
export const listBackups = (db: Db): Promise<BackupRow[]> =>
	read(
		db,
		row,
		'SELECT id, at, file, bytes, sha256, verified_at AS "verifiedAt", problem FROM backup WHERE removed_at IS NULL ORDER BY at DESC',
	);

/** Notes a backup; one of the same name was written anew. */
export async function putBackup(db: Db, b: Pick<BackupRow, 'file' | 'bytes' | 'sha256'>): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO backup (file, bytes, sha256) VALUES ($1, $2, $3)
		ON CONFLICT (file) DO UPDATE SET at = now(), bytes = EXCLUDED.bytes, sha256 = EXCLUDED.sha256, verified_at = NULL, problem = '', removed_at = NULL RETURNING id`,
		[b.file, b.bytes, b.sha256],
	);
	return rows[0]!.id;
}

/** @param problem what was wrong with it; empty: it came back as it was */
export async function triedBackup(db: Db, id: number, problem: string): Promise<void> {
	await db.query(
		`UPDATE backup SET verified_at = CASE WHEN $2 = '' THEN now() ELSE verified_at END, problem = $2 WHERE id = $1`,
		[id, problem],
	);
}

export async function removedBackups(db: Db, files: readonly string[]): Promise<void> {
	await db.query('UPDATE backup SET removed_at = now() WHERE file = ANY($1)', [files]);
}
