import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bringSites } from '@/service/archive/bring';
import { takeSite } from '@/service/archive/close';
import { createPool } from '@/store/pool';
import { startApplication } from './application';

/** A site moves from one installation to another while people write: where it is, a directory says. */
interface Place {
	base: string;
	site: number;
}
export interface Moved {
	/** Entries that were answered, and how many of them were asked for more than once. */
	answered: number;
	askedAgain: number;
	/** Those that are not there exactly once, in the end. */
	wrong: string[];
	/** Longest that one entry waited for its answer, ms. */
	longestMs: number;
}
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

async function call(place: Place, method: string, path: string, body: unknown, key?: string): Promise<Response> {
	return fetch(`${place.base}/api/v1${path}`, {
		method,
		headers: { 'x-cordwain-site': String(place.site), ...(key ? { 'idempotency-key': key } : {}) },
		...(body === undefined ? {} : { body: JSON.stringify(body) }),
	});
}

/** Writes until told to stop: each entry under a key of its own, asked again, wherever the site is by then, until it is answered. */
async function writes(
	where: () => Place,
	on: () => boolean,
	n: number,
	found: Map<string, string>,
	m: Moved,
): Promise<void> {
	for (let i = 0; on(); i++) {
		const [key, value] = [randomUUID(), `5.${String(10 + ((7 * i + n) % 80))}`];
		const note = `${n}-${i}`;
		const reading = { time: new Date().toISOString(), station: 'tank', quantity: 'ph', value, unit: 'pH', note };
		const begin = Date.now();
		for (let tries = 0; ; tries++) {
			const response = await call(where(), 'POST', '/readings', [reading], key).catch(() => null);
			await response?.arrayBuffer().catch(() => {});
			if (response?.status === 201) {
				if (tries > 0) m.askedAgain++;
				break;
			}
			await sleep(50);
		}
		m.longestMs = Math.max(m.longestMs, Date.now() - begin);
		m.answered++;
		found.set(note, value);
		await sleep(10);
	}
}

/** Two installations, each with sites of its own; one of the first moves to the second while three write there: `each` entries before it, and as many after. */
export async function moveWhileWriting(from: string, to: string, each: number): Promise<Moved> {
	const folder = mkdtempSync(join(tmpdir(), 'cordwain-move-'));
	const apps = [await startApplication({ databaseUrl: from }), await startApplication({ databaseUrl: to })] as const;
	const m: Moved = { answered: 0, askedAgain: 0, wrong: [], longestMs: 0 };
	try {
		const made = await call({ base: apps[0].base, site: 1 }, 'POST', '/sites', { name: 'Hill Yard', timezone: 'UTC' });
		let place: Place = { base: apps[0].base, site: (await made.json()).id };
		await call(place, 'POST', '/stations', { code: 'tank', kind: 'reservoir' });
		const found = new Map<string, string>();
		let on = true;
		const writers = [0, 1, 2].map((n) =>
			writes(
				() => place,
				() => on,
				n,
				found,
				m,
			),
		);
		const answered = async (most: number) => {
			while (m.answered < most) await sleep(10);
		};
		await answered(each);
		const [a, b] = [createPool(from), createPool(to)];
		const file = join(folder, 'hill.zip');
		await takeSite(a, place.site, file, 'grower');
		const { ids } = await bringSites(b, file, 'grower');
		// The directory says so from now on.
		place = { base: apps[1].base, site: ids[0]! };
		await Promise.all([a.end(), b.end()]);
		await answered(m.answered + each);
		on = false;
		await Promise.all(writers);
		const last = createPool(to, { siteId: place.site });
		const { rows } = await last.query<{ note: string; digits: string }>(
			'SELECT note, digits FROM reading WHERE site_id = site_here()',
		);
		await last.end();
		for (const [note, value] of found) {
			const own = rows.filter((r) => r.note === note);
			if (own.length !== 1 || own[0]!.digits !== value) m.wrong.push(`${note}: ${own.length} times`);
		}
		if (rows.length !== found.size) m.wrong.push(`${rows.length} readings of ${found.size} entries`);
		return m;
	} finally {
		await Promise.all(apps.map((app) => app.stop()));
		rmSync(folder, { recursive: true, force: true });
	}
}
