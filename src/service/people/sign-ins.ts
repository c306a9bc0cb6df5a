import { createHash, randomBytes } from 'node:crypto';
import { isEnough, ROLES, type Role, type Wanted } from '@/core/roles/roles';
import { anybodyNamed, personById, personByName, roleAt, siteFor } from '@/store/people/people';
import {
	endSignIn,
	insertSignIn,
	listSignIns,
	setMeasures,
	shareSignIn,
	signInByToken,
	touchSignIn,
} from '@/store/people/sign-ins';
import type { Db } from '@/store/pool';
import { Refusal } from '../refusal';
import { isRight } from './passphrase';
import { requirePatience, wasRight, wasWrong } from './tries';

/** Who asks. */
export interface Asker {
	/** Nobody has been named yet, and this is the machine itself. */
	open: boolean;
	personId: number | null;
	/** Who enters, as it is kept with what they enter; null: nobody is known, or nobody has said who measures. */
	name: string | null;
	role: Role | null;
	signInId: number | null;
	shared: boolean;
	/** Named first, or at a machine on which nobody was named: the installation is theirs. */
	owner: boolean;
	/** The site that they come to; null: there is none, or none for them. */
	site: { id: number; name: string } | null;
}
export const NOBODY: Asker = {
	open: false,
	personId: null,
	name: null,
	role: null,
	signInId: null,
	shared: false,
	owner: false,
	site: null,
};
/** Whoever sits at a machine on which nobody has been named. */
export const AT_THE_MACHINE: Asker = { ...NOBODY, open: true, name: 'grower', role: 'grower', owner: true };

/** The same at the site they want, or at the first. */
export const atTheMachine = async (db: Db, wanted: number | null): Promise<Asker> => ({
	...AT_THE_MACHINE,
	site: await siteFor(db, null, wanted),
});

const DAY = 86_400_000;
const LASTS_MS = 30 * DAY;
/** A device that stays at its bench. */
const SHARED_LASTS_MS = 365 * DAY;
/** After so long without a word nobody in particular measures. */
const MEASURES_MS = 20 * 60_000;
/** Whether it was seen is noted no more often than this. */
const SEEN_MS = 60_000;

export const sha256 = (text: string): Buffer => createHash('sha256').update(text).digest();
/** Goes beside the cookie with whatever changes something: a page from elsewhere cannot know it. */
export const pageTokenOf = (token: string): string => sha256(`page ${token}`).toString('base64url');

/** Who comes with a token. @param wanted the site they want to come to */
export async function askerOf(db: Db, token: string | null, wanted: number | null, now: number): Promise<Asker> {
	if (token === null) return NOBODY;
	const s = await signInByToken(db, sha256(token));
	if (!s) return NOBODY;
	// A shared device shows the site it stands at, whatever else whoever put it up may come to.
	const found = await siteFor(db, s.personId, s.shared ? s.standsAt : wanted);
	if (s.shared && s.standsAt !== null && found?.id !== s.standsAt) return NOBODY;
	const site = found && { id: found.id, name: found.name };
	// Before there is a site whoever was named first makes one.
	const may = found?.role ?? (await roleAt(db, null, s.personId));
	if (now - s.seenAt > SEEN_MS) await touchSignIn(db, s.id, now + (s.shared ? SHARED_LASTS_MS : LASTS_MS));
	const base = { open: false, signInId: s.id, shared: s.shared, owner: s.owner && !s.shared, site };
	if (!s.shared) return { ...base, personId: s.personId, name: s.name, role: may };
	// What the device may by itself: look, as long as whoever put it up may.
	const own = may === null ? null : ('visitor' as const);
	const measures =
		s.measuresId !== null && now - Math.max(s.measuresAt ?? 0, s.seenAt) < MEASURES_MS ? s.measuresId : null;
	const role = measures === null ? null : await roleAt(db, site?.id ?? null, measures);
	if (measures === null || role === null) return { ...base, personId: null, name: null, role: own };
	// A PIN is seen over a shoulder: it measures, and decides nothing.
	return { ...base, personId: measures, name: s.measuresName, role: role === 'grower' ? 'helper' : role };
}

/** What was found last of a database, and when: once somebody was named it stays so. */
let found: { of: object; open: boolean; at: number } | null = null;
/** Another server of the same database may have named somebody meanwhile. */
const ASKED_AGAIN_MS = 2000;
/** Whether nobody has been named yet. */
export async function isOpen(db: Db, now: number): Promise<boolean> {
	if (found?.of === db && (!found.open || now - found.at < ASKED_AGAIN_MS)) return found.open;
	found = { of: db, open: !(await anybodyNamed(db)), at: now };
	return found.open;
}
/** Somebody was named just now. */
export const namesThemselves = (): void => {
	found = null;
};

const NAMES: Record<Role, string> = {
	visitor: 'anybody with a name here',
	helper: 'a helper or a grower',
	grower: 'a grower',
};

/** @throws Refusal where a person may not do what an operation does */
export function requireRole({ role, shared, name, personId }: Asker, wanted: Wanted): void {
	if (isEnough(role, wanted) || wanted === 'anybody') return;
	if (role === null && personId !== null)
		throw new Refusal('sign-in-first', [
			{ path: '', message: 'No site is open to you here any more: ask who was named first. What you typed is kept.' },
		]);
	if (role === null)
		throw new Refusal('sign-in-first', [{ path: '', message: 'Sign in first. What you typed is kept.' }]);
	if (shared && name === null && wanted === 'helper')
		throw new Refusal('sign-in-first', [
			{ path: '', message: 'Say who measures first: tap your name and type your PIN.' },
		]);
	throw new Refusal('role', [
		{ path: '', message: `Only ${NAMES[ROLES.find((r) => r === wanted)!]} may do this; you are here as a ${role}.` },
	]);
}

/** @throws Refusal where the installation is not theirs */
export function requireOwner({ owner }: Asker): void {
	if (owner) return;
	throw new Refusal('role', [
		{ path: '', message: 'Only the grower who was named first may do this: it is of every site.' },
	]);
}

/** Begins a sign-in. @returns its token, known from now on to whoever asked alone */
export async function beginSignIn(db: Db, personId: number, label: string, now: number): Promise<string> {
	const token = `cws_${randomBytes(32).toString('base64url')}`;
	await insertSignIn(db, { sha256: sha256(token), personId, label: label.slice(0, 200), expiresAt: now + LASTS_MS });
	return token;
}

const WRONG = () =>
	new Refusal('wrong-sign-in', [{ path: 'passphrase', message: 'Name or passphrase is wrong. Mind capital letters.' }]);

/** What somebody may do where they come to first; null: nothing anywhere. */
export const roleSomewhere = async (db: Db, personId: number): Promise<Role | null> =>
	(await siteFor(db, personId, null))?.role ?? (await roleAt(db, null, personId));

/** By name and passphrase; the answer and the time it takes are the same whether there is such a name or not. */
export async function signIn(
	db: Db,
	{ name, passphrase, label }: { name: string; passphrase: string; label: string },
	{ from, now }: { from: string; now: number },
): Promise<{ name: string; role: Role; token: string }> {
	const tried = { kind: 'name', of: name, from } as const;
	await requirePatience(db, tried, now);
	const person = await personByName(db, name.trim());
	const right = await isRight(passphrase, person?.passphrase ?? null);
	const role = person ? await roleSomewhere(db, person.id) : null;
	if (!right || !person || role === null) {
		await wasWrong(db, tried);
		throw WRONG();
	}
	await wasRight(db, tried);
	return { name: person.name, role, token: await beginSignIn(db, person.id, label, now) };
}

/** @throws Refusal where this is nobody's passphrase so far */
export async function requirePassphrase(
	db: Db,
	personId: number,
	soFar: string,
	from: string,
	now: number,
): Promise<void> {
	const person = await personById(db, personId);
	const tried = { kind: 'name', of: person?.name ?? '', from } as const;
	await requirePatience(db, tried, now);
	if (await isRight(soFar, person?.passphrase ?? null)) return;
	await wasWrong(db, tried);
	throw new Refusal('wrong-sign-in', [{ path: 'so_far', message: 'This is not the passphrase so far.' }]);
}

export async function signInsSeenBy(db: Db, asker: Asker) {
	if (asker.personId === null) return [];
	const all = await listSignIns(db, asker.site?.id ?? null, asker.role === 'grower' ? null : asker.personId);
	return all.map((s) => ({ ...s, here: s.id === asker.signInId }));
}

/** Ends a sign-in: one's own, or as a grower any. */
export async function endOne(db: Db, asker: Asker, id: number): Promise<void> {
	const seen = await signInsSeenBy(db, asker);
	if (!seen.some((s) => s.id === id))
		throw new Refusal('no-such-id', [{ path: 'id', message: 'There is no such sign-in, or it has ended.' }]);
	await endSignIn(db, id);
}

export async function makeShared(db: Db, asker: Asker, label: string, now: number): Promise<void> {
	if (asker.signInId === null || asker.personId === null)
		throw new Refusal('nobody-named', [
			{ path: '', message: 'Name a grower first: a device that is shared belongs to somebody.' },
		]);
	await shareSignIn(db, asker.signInId, {
		label,
		standsAt: asker.site?.id ?? null,
		expiresAt: now + SHARED_LASTS_MS,
	});
}

/** Says by a PIN who measures with a shared device. */
export async function sayWhoMeasures(
	db: Db,
	asker: Asker,
	{ id, pin }: { id: number; pin: string },
	{ from, now }: { from: string; now: number },
): Promise<string> {
	if (!asker.shared || asker.signInId === null)
		throw new Refusal('not-shared', [{ path: '', message: 'This device is not one that is shared.' }]);
	const tried = { kind: 'pin', of: String(id), from } as const;
	await requirePatience(db, tried, now);
	const person = await personById(db, id);
	const role = person ? await roleAt(db, asker.site?.id ?? null, id) : null;
	const right = await isRight(pin, person?.pin ?? null);
	if (!right || !person || role === null || role === 'visitor') {
		await wasWrong(db, tried);
		throw new Refusal('wrong-sign-in', [{ path: 'pin', message: 'The PIN is wrong.' }]);
	}
	await wasRight(db, tried);
	await setMeasures(db, asker.signInId, person.id);
	return person.name;
}

export async function leaveDevice(db: Db, asker: Asker): Promise<void> {
	if (asker.shared && asker.signInId !== null) await setMeasures(db, asker.signInId, null);
}

export async function signOut(db: Db, asker: Asker): Promise<void> {
	if (asker.signInId !== null) await endSignIn(db, asker.signInId);
}
