import { randomInt } from 'node:crypto';
import { isEnough, type Role } from '@/core/roles/roles';
import {
	endMembership,
	insertJoinCode,
	insertOwner,
	insertPerson,
	listPeople,
	lockRoles,
	peopleWithPins,
	putMembership,
	roleAt,
	setEnded,
	setSecrets,
	sitesOf,
	spendJoinCode,
} from '@/store/people/people';
import { endOtherSignIns } from '@/store/people/sign-ins';
import { type Db, transaction } from '@/store/pool';
import { insertAudit, listSites } from '@/store/site';
import { Refusal } from '../refusal';
import { NoSite } from '../site';
import { hashed, isWeak } from './passphrase';
import { type Asker, beginSignIn, requirePassphrase, sha256 } from './sign-ins';
import { requirePatience, wasWrong } from './tries';

interface From {
	from: string;
	now: number;
}

async function requireStrong(passphrase: string, name: string): Promise<void> {
	if (await isWeak(passphrase, name))
		throw new Refusal('weak-passphrase', [
			{
				path: 'passphrase',
				message: 'This one is guessed first. Take four words that have nothing to do with one another.',
			},
		]);
}

/** Names the first grower, once. */
export async function nameOwner(
	db: Db,
	{ name, passphrase }: { name: string; passphrase: string },
	{ now }: Pick<From, 'now'>,
): Promise<{ name: string; role: Role; token: string }> {
	await requireStrong(passphrase, name);
	const kept = await hashed(passphrase);
	return transaction(db, async (client) => {
		const id = await insertOwner(client, name, kept);
		if (id === null)
			throw new Refusal('owner-is-named', [{ path: '', message: 'The first grower was named already. Sign in.' }]);
		for (const { id: siteId } of await listSites(client))
			await insertAudit(client, siteId, name, 'person.owner', name, {});
		return { name, role: 'grower' as const, token: await beginSignIn(client, id, '', now) };
	});
}

/** Letters and digits that are not taken for one another when they are read aloud. */
const LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const LENGTH = 10;
const LASTS_MS = 30 * 60_000;
const plain = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** A code by which one person joins; kept hashed. */
export async function makeJoinCode(
	db: Db,
	asker: Asker,
	role: Role,
	now: number,
): Promise<{ code: string; expiresAt: number }> {
	if (asker.personId === null)
		throw new Refusal('nobody-named', [{ path: '', message: 'Name yourself first: then others can join.' }]);
	const site = siteOf(asker);
	const letters = Array.from({ length: LENGTH }, () => LETTERS[randomInt(LETTERS.length)]!).join('');
	const expiresAt = now + LASTS_MS;
	await insertJoinCode(db, { sha256: sha256(letters), siteId: site.id, role, madeBy: asker.personId, expiresAt });
	await insertAudit(db, site.id, asker.name!, 'person.code', role, {});
	return { code: `${letters.slice(0, 5)}-${letters.slice(5)}`, expiresAt };
}

/** Joins by a code. */
export async function join(
	db: Db,
	{ code, name, passphrase, pin }: { code: string; name: string; passphrase: string; pin?: string | undefined },
	{ from, now }: From,
): Promise<{ name: string; role: Role; token: string }> {
	const tried = { kind: 'code', of: '', from } as const;
	await requirePatience(db, tried, now);
	await requireStrong(passphrase, name);
	const [kept, keptPin] = [await hashed(passphrase), pin === undefined ? null : await hashed(pin)];
	try {
		return await transaction(db, async (client) => {
			const found = await spendJoinCode(client, sha256(plain(code)));
			if (!found) throw NO_SUCH_CODE();
			const id = await insertPerson(client, { name, passphrase: kept, pin: keptPin, owner: false });
			// The code is good for another name.
			if (id === null)
				throw new Refusal('name-is-taken', [{ path: 'name', message: 'Somebody here has this name. Take another.' }]);
			await putMembership(client, found.siteId, id, found.role);
			await insertAudit(client, found.siteId, name, 'person.joined', name, { role: found.role });
			return { name, role: found.role, token: await beginSignIn(client, id, '', now) };
		});
	} catch (error) {
		if (error instanceof Refusal && error.code === 'wrong-code') await wasWrong(db, tried);
		throw error;
	}
}

/** Joins one more site by a code, as who they are already. @returns its number */
export async function joinToo(db: Db, asker: Asker, code: string, { from, now }: From): Promise<number> {
	const { personId, name } = asker;
	if (personId === null || name === null || asker.shared)
		throw new Refusal('nobody-named', [{ path: '', message: 'Sign in by yourself first.' }]);
	const tried = { kind: 'code', of: '', from } as const;
	await requirePatience(db, tried, now);
	const found = await transaction(db, async (client) => {
		const spent = await spendJoinCode(client, sha256(plain(code)));
		if (!spent) return null;
		await lockRoles(client);
		const has = await roleAt(client, spent.siteId, personId);
		// A code takes nothing away.
		const role = has && isEnough(has, spent.role) ? has : spent.role;
		await putMembership(client, spent.siteId, personId, role);
		await insertAudit(client, spent.siteId, name, 'person.joined', name, { role });
		return spent.siteId;
	});
	if (found !== null) return found;
	await wasWrong(db, tried);
	throw NO_SUCH_CODE();
}

const NO_SUCH_CODE = () =>
	new Refusal('wrong-code', [
		{ path: 'code', message: 'There is no such code, or it was used, or its half hour is over. Ask for another.' },
	]);

/** The site that somebody who asks comes to. @throws NoSite */
function siteOf({ site }: Asker): { id: number; name: string } {
	if (!site) throw new NoSite();
	return site;
}

export const everybody = (db: Db, asker: Asker) => listPeople(db, siteOf(asker).id);

export const whoHasPin = async (db: Db, asker: Asker) =>
	asker.shared && asker.site ? peopleWithPins(db, asker.site.id) : [];

/** Another role for somebody, or their end. One grower stays. */
export async function changePerson(
	db: Db,
	asker: Asker,
	id: number,
	{ role, ended }: { role?: Role | undefined; ended?: boolean | undefined },
): Promise<void> {
	await transaction(db, async (client) => {
		const site = siteOf(asker);
		// Two growers who end one another at once: one is first.
		await lockRoles(client);
		const all = await listPeople(client, site.id);
		const person = all.find((p) => p.id === id);
		if (!person) throw new Refusal('no-such-id', [{ path: 'id', message: 'There is nobody with this number.' }]);
		if (person.owner && ((role !== undefined && role !== 'grower') || ended))
			throw new Refusal('last-grower', [
				{ path: 'role', message: 'Who was named first stays a grower: the machine is theirs.' },
			]);
		const after = { role: role ?? person.role, ended: ended ?? person.ended };
		const growers = all.filter((p) =>
			p.id === id ? after.role === 'grower' && !after.ended : p.role === 'grower' && !p.ended,
		);
		if (growers.length === 0)
			throw new Refusal('last-grower', [
				{ path: 'role', message: 'One grower has to stay. Make somebody else one first.' },
			]);
		if (role !== undefined) await putMembership(client, site.id, id, role);
		// Whoever comes to other sites too has ended at this one alone.
		if (ended && (await sitesOf(client, id)).some((s) => s.id !== site.id)) await endMembership(client, site.id, id);
		else if (ended !== undefined) await setEnded(client, id, ended);
		await insertAudit(client, site.id, asker.name ?? 'grower', 'person.changed', person.name, {
			before: { role: person.role, ended: person.ended },
			after,
		});
	});
}

/** Another passphrase or PIN of one's own; other sign-ins end with a passphrase that was. */
export async function changeSecrets(
	db: Db,
	asker: Asker,
	{ soFar, passphrase, pin }: { soFar: string; passphrase?: string | undefined; pin?: string | null | undefined },
	{ from, now }: From,
): Promise<void> {
	if (asker.personId === null || asker.shared || asker.signInId === null)
		throw new Refusal('nobody-named', [{ path: '', message: 'Sign in by yourself to change this.' }]);
	await requirePassphrase(db, asker.personId, soFar, from, now);
	if (passphrase !== undefined) await requireStrong(passphrase, asker.name ?? '');
	await setSecrets(db, asker.personId, {
		passphrase: passphrase === undefined ? undefined : await hashed(passphrase),
		pin: pin == null ? pin : await hashed(pin),
	});
	if (passphrase !== undefined) await endOtherSignIns(db, asker.personId, asker.signInId);
}
