import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, describe, expect, it } from 'vitest';
import { backUp, tryOut } from '@/service/archive/backup';
import { bringSites } from '@/service/archive/bring';
import { takeSite } from '@/service/archive/close';
import { manifest } from '@/service/archive/format';
import { restoreArchive } from '@/service/archive/restore';
import { writeArchive } from '@/service/archive/write';
import { enterSamples } from '@/service/enter';
import { requireSite } from '@/service/site';
import { archivedTables } from '@/store/archive/catalog';
import { listBackups } from '@/store/backups';
import { PLAIN_STATION, putStation } from '@/store/line';
import { createPool, type Pool, transaction } from '@/store/pool';
import { insertSite } from '@/store/site';
import { freshDatabase, withInstallation } from '../helpers/database';

/** Taken out, brought back, taken out again: the same bytes (format 1, docs/formats.md). Checked with Python's own zip and csv. */
const folder = mkdtempSync(join(tmpdir(), 'cordwain-archive-test-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function archiveOf(pool: Pool, siteId: number | null = null): Promise<Buffer> {
	const pieces: Uint8Array[] = [];
	for await (const piece of writeArchive(pool, siteId)) pieces.push(piece);
	return Buffer.concat(pieces);
}
const kept = (name: string, bytes: Uint8Array): string => {
	const path = join(folder, name);
	writeFileSync(path, bytes);
	return path;
};
let whole: Buffer;

describe('an archive of the demo', () => {
	it('holds every table but what is secret or of this machine, with counts and digests that Python finds too', async () => {
		await withInstallation('demo', async (pool) => {
			await pool.query(
				`INSERT INTO person (name, passphrase, pin, owner) VALUES ('Wren', 'scrypt$secret-of-wren', 'scrypt$pin-of-wren', true)`,
			);
			// What has been in no file so far: a decision that was taken back, a corrected event, a discarded reading, quotes and line feeds.
			await pool.query(
				`UPDATE product SET note = E'two "lines",\\nand a comma' WHERE id = (SELECT min(id) FROM product)`,
			);
			await pool.query(
				`INSERT INTO watch_settings (site_id, mail, webhook) SELECT id, '{"host":"mail.example","password":"of-the-mail"}', '{"url":"http://127.0.0.1/","secret":"of-the-hook"}' FROM site ON CONFLICT (site_id) DO UPDATE SET mail = EXCLUDED.mail, webhook = EXCLUDED.webhook`,
			);
			// What came with the name of its request, as everything from a page does.
			await pool.query(
				`INSERT INTO answered (site_id, key, operation, fingerprint, status, answer) SELECT id, gen_random_uuid(), 'POST /readings', 'x', 201, '{}' FROM site`,
			);
			await pool.query(`INSERT INTO sample (site_id, key) SELECT site_id, key FROM answered`);
			whole = await archiveOf(pool);
			const tables = (
				await pool.query(
					"SELECT relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE n.nspname = 'public' AND relkind IN ('r','p') AND NOT relispartition",
				)
			).rows.map((r) => r.relname);
			const all = await archivedTables(pool);
			const archived = all.map((t) => t.name);
			// What is in it names nothing that is left out.
			expect(all.flatMap((t) => t.needs.filter((n) => !archived.includes(n)))).toEqual([]);
			expect(tables.filter((t) => !archived.includes(t)).sort()).toEqual([
				'backup',
				'join_code',
				'passkey',
				'passkey_challenge',
				'schema_version',
				'sign_in',
				'stand_in_mail',
				'watch_delivery',
				'wrong_try',
			]);
		});
		const path = kept('whole.zip', whole);
		const told = JSON.parse(
			execFileSync('python3', ['-c', PYTHON, path], { encoding: 'utf8', maxBuffer: 1 << 26 }),
		) as Record<string, [number, string]>;
		const m = manifest.parse(JSON.parse(Buffer.from(unzipSync(whole)['manifest.json']!).toString()));
		expect(Object.keys(told).length).toBeGreaterThan(70);
		for (const [name, [rows, sha256]] of Object.entries(told))
			expect([name, m.files[name]]).toMatchObject([name, name.endsWith('.csv') ? { rows, sha256 } : { sha256 }]);
		expect(m.files['tables/reading.csv']!.rows).toBeGreaterThan(3000);
		const text = Object.values(unzipSync(whole))
			.map((u) => Buffer.from(u).toString())
			.join('\n');
		for (const secret of ['secret-of-wren', 'pin-of-wren', 'of-the-mail', 'of-the-hook'])
			expect(text).not.toContain(secret);
		expect(text).toContain('mail.example');
	});
	it('comes back into an empty installation whole, and makes the same bytes again', async () => {
		await withInstallation('empty', async (pool) => {
			const restored = await restoreArchive(pool, kept('whole.zip', whole));
			expect(restored.sites).toEqual(['Saltmarsh Yard']);
			const again = await archiveOf(pool);
			const [a, b] = [unzipSync(whole), unzipSync(again)];
			for (const n of Object.keys(a))
				expect([n, Buffer.from(b[n]!).toString()]).toEqual([n, Buffer.from(a[n]!).toString()]);
			expect(createHash('sha256').update(again).digest('hex')).toBe(createHash('sha256').update(whole).digest('hex'));
			// It goes on from there: the next number is a new one, and what is append-only is so again.
			const { rows } = await pool.query("SELECT nextval('row_id') > (SELECT max(id) FROM reading) AS fresh");
			expect(rows[0].fresh).toBe(true);
			await expect(pool.query('DELETE FROM decision')).rejects.toThrow();
			await expect(restoreArchive(pool, kept('whole.zip', whole))).rejects.toMatchObject({ code: 'not-empty' });
		});
	});
	it('of one of two sites holds that one and its people, comes back alone, and makes the same bytes again', async () => {
		await withInstallation('demo', async (pool) => {
			const second = await transaction(pool, async (client) => {
				const { id } = await insertSite(client, { name: 'Hill Yard', timezone: 'UTC', units: {}, settings: {} });
				await putStation(client, id, {
					...PLAIN_STATION,
					code: 'hill-bed',
					name: 'Hill bed',
					kind: 'reservoir',
					position: 1,
				});
				return id;
			});
			await pool.query("INSERT INTO person (name) VALUES ('Wren'), ('Heron')");
			await pool.query("INSERT INTO membership SELECT $1, id, 'helper' FROM person WHERE name = 'Heron'", [second]);
			const own = await archiveOf(pool, second);
			const text = Object.values(unzipSync(own))
				.map((u) => Buffer.from(u).toString())
				.join('\n');
			expect([text.includes('hill-bed'), text.includes('Heron')]).toEqual([true, true]);
			expect([text.includes('Saltmarsh'), text.includes('pond'), text.includes('Wren')]).toEqual([false, false, false]);
			await withInstallation('empty', async (other) => {
				expect((await restoreArchive(other, kept('one.zip', own))).sites).toEqual(['Hill Yard']);
				expect((await archiveOf(other, second)).equals(own)).toBe(true);
			});
			// Of both at once there is all of it.
			const both = await archiveOf(pool);
			await withInstallation('empty', async (other) => {
				await restoreArchive(other, kept('both.zip', both));
				expect((await archiveOf(other)).equals(both)).toBe(true);
				expect((await archiveOf(other, second)).equals(own)).toBe(true);
			});
		});
	});
	it('comes in beside other sites under a new number: whole, its people by their names, and nothing of the others touched', async () => {
		await withInstallation('demo', async (there) => {
			await there.query("INSERT INTO person (name, owner) VALUES ('Wren', true), ('Heron', false)");
			await there.query("INSERT INTO membership SELECT 1, id, 'helper' FROM person WHERE name = 'Heron'");
			const taken = join(folder, 'taken.zip');
			await takeSite(there, 1, taken, 'Wren');
			const own = readFileSync(taken);
			expect((await archiveOf(there, 1)).equals(own)).toBe(true);
			await withInstallation('demo', async (here) => {
				// Another of this name, under another number; and whose the installation is stays so.
				await here.query("INSERT INTO person (name, owner) VALUES ('HERON', false), ('Stoat', true)");
				await here.query("INSERT INTO membership SELECT 1, id, 'visitor' FROM person WHERE name = 'HERON'");
				const before = await archiveOf(here, 1);
				const { ids } = await bringSites(here, taken, 'Stoat');
				expect(ids).toEqual([2]);
				expect((await archiveOf(here, 1)).equals(before)).toBe(true);
				const [a, b] = [unzipSync(own), unzipSync(await archiveOf(here, 2))];
				const text = (files: Record<string, Uint8Array>, name: string) => Buffer.from(files[name]!).toString();
				const BY_SITE = /^site_id,/;
				const compared = Object.keys(a).filter((n) => n.startsWith('tables/') && BY_SITE.test(text(a, n)));
				expect(compared.length).toBeGreaterThan(40);
				for (const n of compared.filter((n) => !/membership|audit/.test(n)))
					expect([n, text(b, n).replace(/^2,/gm, '1,')]).toEqual([n, text(a, n).replace(/^2,/gm, '1,')]);
				for (const n of ['readings.csv', 'events.csv', 'calibrations.csv'])
					expect([n, text(b, n)]).toEqual([n, text(a, n)]);
				const { rows } = await here.query(
					'SELECT m.site_id AS site, p.name, m.role, p.owner FROM membership m JOIN person p ON p.id = m.person_id ORDER BY 1, 2',
				);
				expect(rows).toEqual([
					{ site: 1, name: 'HERON', role: 'visitor', owner: false },
					{ site: 2, name: 'HERON', role: 'helper', owner: false },
				]);
				const owners = await here.query('SELECT name FROM person WHERE owner ORDER BY name');
				expect(owners.rows).toEqual([{ name: 'Stoat' }]);
				// It goes on from there: what is entered next has a number of its own, and is judged by what it remembers.
				const ofSite = createPool(here.options.connectionString!, { siteId: 2, guarded: true });
				const context = await requireSite(ofSite);
				const [entered] = await enterSamples(
					ofSite,
					context,
					[
						{
							at: Date.now(),
							station: 'pond',
							readings: [{ quantity: 'ph', value: '5.9', unit: 'pH', instrument: 'plum' }],
						},
					],
					{ source: 'test', who: 'grower', now: Date.now() },
				);
				expect(entered!.readings[0]!.id).toBeGreaterThan(0);
				await ofSite.end();
			});
		});
	});
	it('that is damaged leaves nothing beside them', async () => {
		await withInstallation('demo', async (pool) => {
			const path = kept(
				'half.zip',
				changed(whole, 'tables/reading.csv', (t) => t.replace(',ph,', ',ec,')),
			);
			await expect(bringSites(pool, path, 'Stoat')).rejects.toMatchObject({ code: 'not-an-archive' });
			expect((await pool.query('SELECT id FROM site')).rows).toEqual([{ id: 1 }]);
		});
	});
	it.each([
		['cut off', (b: Buffer) => b.subarray(0, b.length / 2)],
		['no zip', () => Buffer.from('time,station\n')],
		['a file changed', (b: Buffer) => changed(b, 'tables/reading.csv', (t) => t.replace(',ph,', ',ec,'))],
		['a file missing', (b: Buffer) => without(b, 'tables/event.csv')],
		['of a newer format', (b: Buffer) => changed(b, 'manifest.json', (t) => t.replace('"version": 1', '"version": 2'))],
		[
			'of a newer schema',
			(b: Buffer) => changed(b, 'manifest.json', (t) => t.replace(/"schema": \d+/, '"schema": 9999')),
		],
	] as const)('%s: it says so, and nothing is stored', async (name, damage) => {
		await withInstallation('empty', async (pool) => {
			const path = kept(`${name}.zip`, damage(whole));
			await expect(restoreArchive(pool, path)).rejects.toMatchObject({ code: 'not-an-archive' });
			const { rows } = await pool.query('SELECT (SELECT count(*) FROM site) + (SELECT count(*) FROM station) AS n');
			expect(rows[0].n).toBe(0);
		});
	});
	it('of an older schema: what it has no column for is as in a new row', async () => {
		const older = resealed(
			changed(whole, 'tables/station.csv', (text) => {
				const [head, ...rows] = text.trimEnd().split('\n');
				const at = head!.split(',').indexOf('shape');
				const cut = (line: string) =>
					line
						.split(',')
						.filter((_, i) => i !== at)
						.join(',');
				// Only lines without quotes can be cut so; the others are left out of this test's book.
				expect(head!.split(',').at(-1)).toBe('shape');
				return `${[cut(head!), ...rows.map((l) => l.replace(/,[^,]*$/, ''))].join('\n')}\n`;
			}),
		);
		await withInstallation('empty', async (pool) => {
			await restoreArchive(pool, kept('older.zip', older));
			const { rows } = await pool.query('SELECT DISTINCT shape FROM station');
			expect(rows).toEqual([{ shape: '' }]);
		});
	});
});

describe('backups by themselves', () => {
	it('are written whole, listed, tried out in a database of their own, and found out when they are damaged', async () => {
		const url = await freshDatabase('demo');
		const pool = createPool(url);
		try {
			const own = mkdtempSync(join(folder, 'backups-'));
			await backUp(pool, own, '2025-01-02');
			// Two who ask at once.
			await Promise.all(['2026-07-14', '2026-07-14'].map((day) => backUp(pool, own, day)));
			const [newest] = await listBackups(pool);
			expect(newest).toMatchObject({ file: 'cordwain-2026-07-14.zip', problem: '', verifiedAt: null });
			const path = join(own, newest!.file);
			expect(await tryOut(url, path, newest!.sha256)).toBe('');
			writeFileSync(path, readFileSync(path).subarray(0, -100));
			expect(await tryOut(url, path, newest!.sha256)).toMatch(/not what was written/);
			// Others may be trying theirs out beside us; none is left.
			const left = async () =>
				(await pool.query("SELECT count(*)::int AS n FROM pg_database WHERE datname LIKE 'cordwain_trial_%'")).rows[0]
					.n;
			await expect.poll(left).toBe(0);
		} finally {
			await pool.end();
		}
	});
});

function changed(zip: Buffer, name: string, by: (text: string) => string): Buffer {
	const files = unzipSync(zip);
	const before = Buffer.from(files[name]!).toString();
	const after = by(before);
	expect(after).not.toBe(before);
	files[name] = Buffer.from(after);
	return Buffer.from(zipSync(files));
}
function without(zip: Buffer, name: string): Buffer {
	const { [name]: _, ...rest } = unzipSync(zip);
	return Buffer.from(zipSync(rest));
}
/** With a manifest that fits again. */
function resealed(zip: Buffer): Buffer {
	const files = unzipSync(zip);
	const m = manifest.parse(JSON.parse(Buffer.from(files['manifest.json']!).toString()));
	for (const [name, file] of Object.entries(m.files))
		file.sha256 = createHash('sha256').update(files[name]!).digest('hex');
	files['manifest.json'] = Buffer.from(JSON.stringify(m));
	return Buffer.from(zipSync(files));
}
const PYTHON = `
import sys, zipfile, csv, io, json, hashlib
csv.field_size_limit(1 << 30)
z = zipfile.ZipFile(sys.argv[1])
assert z.testzip() is None
out = {}
for n in z.namelist():
    if n == 'manifest.json': continue
    b = z.read(n)
    rows = max(sum(1 for _ in csv.reader(io.StringIO(b.decode('utf8'), newline=''))) - 1, 0) if n.endswith('.csv') else 0
    out[n] = [rows, hashlib.sha256(b).hexdigest()]
print(json.dumps(out))
`;
