import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeArchive } from '@/service/archive/write';
import { atOneMoment } from '@/store/archive/copy';
import { copyOutOf } from '@/store/archive/copy-out';
import { createPool, type Pool } from '@/store/pool';
import { freshDatabase } from '../helpers/database';

/** What is taken out goes as fast as whoever takes it; who goes away leaves nothing behind. Common sense, no source. */
const ANSWER_MS = 300;
const MOST = 2;
/** More than fits between here and the database. */
const ROWS = 20_000;
const LARGE = `COPY (SELECT g, repeat('x', 1000) FROM generate_series(1, ${ROWS}) g) TO STDOUT`;
let pool: Pool;
beforeAll(async () => {
	pool = createPool(await freshDatabase('demo'), { answerMs: ANSWER_MS, most: MOST });
});
afterAll(() => pool.end());
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));
const answers = async () => (await pool.query('SELECT 1 AS one')).rows;

describe('a copy out of the database', () => {
	it('that is read more slowly than any question may take is whole all the same', async () => {
		let lines = 0;
		let waited = false;
		await atOneMoment(pool, async (client) => {
			for await (const chunk of copyOutOf(client, LARGE)) {
				for (const byte of chunk as Buffer) if (byte === 0x0a) lines++;
				if (!waited) await sleep(3 * ANSWER_MS);
				waited = true;
			}
		});
		expect(lines).toBe(ROWS);
		// Nor does anything come after its end.
		await sleep(2 * ANSWER_MS);
		expect(await answers()).toEqual([{ one: 1 }]);
	});
	it('that is given up on the way gives its connection up, and the next ones are answered', async () => {
		for (let i = 0; i < 3 * MOST; i++)
			await atOneMoment(pool, async (client) => {
				for await (const _ of copyOutOf(client, LARGE)) break;
			});
		await sleep(2 * ANSWER_MS);
		expect(await Promise.all(Array.from({ length: 3 * MOST }, answers))).toHaveLength(3 * MOST);
	});
	it('whose connection is lost tells whoever reads, and nobody else', async () => {
		const lost = atOneMoment(pool, async (client) => {
			let { pid } = (await client.query('SELECT pg_backend_pid() AS pid')).rows[0];
			for await (const _ of copyOutOf(client, LARGE)) {
				if (pid) await pool.query('SELECT pg_terminate_backend($1)', [pid]);
				pid = null;
			}
		});
		await expect(lost).rejects.toThrow();
		expect(await answers()).toEqual([{ one: 1 }]);
	});
	it('an archive that nobody fetches to its end leaves the pool as it was', async () => {
		for (let i = 0; i < 2 * MOST; i++) {
			const pieces = writeArchive(pool, null);
			for (let n = 0; n < 4; n++) await pieces.next();
			await pieces.return(undefined);
		}
		await sleep(2 * ANSWER_MS);
		expect(await Promise.all(Array.from({ length: 3 * MOST }, answers))).toHaveLength(3 * MOST);
	});
});
