// npm run sites                     lists the sites that are here
// npm run sites -- take N FILE.zip  closes site N and writes its archive, to be brought in elsewhere
// npm run sites -- open N           opens a site that was closed
// npm run sites -- bring FILE.zip   brings the sites of an archive in beside those that are here, under new numbers
import { resolve } from 'node:path';
import { bringSites } from '@/service/archive/bring';
import { closeSite, takeSite } from '@/service/archive/close';
import { Refusal } from '@/service/refusal';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT } from '@/store/pool';
import { listSites } from '@/store/site';
import { settings } from './settings.mjs';

const [what, ...given] = process.argv.slice(2);
const pool = createPool(settings().DATABASE_URL!, PATIENT);
const say = (text: string) => process.stdout.write(`${text}\n`);
const numbered = (text: string | undefined): number => {
	if (!/^[1-9]\d{0,8}$/.test(text ?? '')) throw new Error('Name the site by its number: npm run sites lists them.');
	return Number(text);
};
const WHO = 'grower';
try {
	await migrate(pool);
	if (what === undefined) for (const s of await listSites(pool)) say(`${s.id}\t${s.name}${s.closed ? '\tclosed' : ''}`);
	else if (what === 'take' && given.length === 2) {
		const path = resolve(given[1]!);
		await takeSite(pool, numbered(given[0]), path, WHO);
		say(`${path}\nNobody comes to it here any more; nothing of it is gone. Bring it in elsewhere, or open it again.`);
	} else if (what === 'open' && given.length === 1) {
		await closeSite(pool, numbered(given[0]), false, WHO);
		say('It is open again.');
	} else if (what === 'bring' && given.length === 1) {
		const { sites, ids, rows } = await bringSites(pool, resolve(given[0]!), WHO);
		say(`${sites.map((name, i) => `${name} is site ${ids[i]}`).join(', ')}: ${rows} rows.`);
		say('Passphrases, tokens of nodes and passwords of mail servers are in no archive: set them anew.');
	} else throw new Error('Usage: npm run sites [-- take N FILE.zip | open N | bring FILE.zip]');
} catch (error) {
	process.stderr.write(
		`${error instanceof Refusal ? error.errors.map((e) => e.message).join(' ') : (error as Error).message}\n`,
	);
	process.exitCode = 2;
} finally {
	await pool.end();
}
