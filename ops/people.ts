// npm run people                     lists who has a role here
// npm run people -- passphrase NAME  reads a new passphrase from the standard input: for whoever forgot theirs, by whoever has the machine
import { createInterface } from 'node:readline/promises';
import { hashed, isWeak } from '@/service/people/passphrase';
import { migrate } from '@/store/migrate';
import { anybodyNamed, listPeople, personByName, setEnded, setSecrets } from '@/store/people/people';
import { endOtherSignIns } from '@/store/people/sign-ins';
import { createPool, PATIENT } from '@/store/pool';
import { listSites } from '@/store/site';
import { settings } from './settings.mjs';

const [what, name] = process.argv.slice(2);
const pool = createPool(settings().DATABASE_URL!, PATIENT);
try {
	await migrate(pool);
	if (what === undefined) {
		const sites = await listSites(pool);
		for (const s of sites) {
			if (sites.length > 1) process.stdout.write(`${s.id}\t${s.name}\n`);
			for (const p of await listPeople(pool, s.id)) process.stdout.write(`${p.name}\t${p.ended ? 'ended' : p.role}\n`);
		}
		if (!(await anybodyNamed(pool)))
			process.stdout.write('Nobody has been named yet: open Cordwain on this machine, and People.\n');
	} else if (what === 'passphrase' && name) {
		const person = await personByName(pool, name);
		if (!person) throw new Error(`There is nobody called ${name}.`);
		const lines = createInterface({ input: process.stdin, terminal: false });
		process.stderr.write(`New passphrase of ${person.name}: `);
		const { value: passphrase = '' } = await lines[Symbol.asyncIterator]().next();
		lines.close();
		if (passphrase.length < 12 || (await isWeak(passphrase, person.name)))
			throw new Error('At least 12 characters that have nothing to do with the name: four words, say.');
		await setSecrets(pool, person.id, { passphrase: await hashed(passphrase) });
		if (person.ended) await setEnded(pool, person.id, false);
		await endOtherSignIns(pool, person.id, -1);
		process.stdout.write(`${person.name} signs in with it from now on; other sign-ins have ended.\n`);
	} else throw new Error('Usage: npm run people, or: npm run people -- passphrase NAME');
} catch (error) {
	process.stderr.write(`${(error as Error).message}\n`);
	process.exitCode = 2;
} finally {
	await pool.end();
}
