import type { AuthenticationResponseJSON, RegistrationResponseJSON } from '@simplewebauthn/server';
import type { Role } from '@/core/roles/roles';
import {
	deletePasskey,
	insertChallenge,
	insertPasskey,
	listPasskeys,
	passkeyByCredential,
	spendChallenge,
	usedPasskey,
} from '@/store/people/passkeys';
import { personById } from '@/store/people/people';
import type { Db } from '@/store/pool';
import { Refusal } from '../refusal';
import { type Asker, beginSignIn, roleSomewhere } from './sign-ins';
import { requirePatience, wasWrong } from './tries';

/** What knows the standard is read once somebody has a passkey: it is a tenth of all that a server reads. */
const webAuthn = () => import('@simplewebauthn/server');

/** Where the page was opened that asks: passkeys belong to a name and a secure origin (W3C WebAuthn level 2). */
export interface Origin {
	/** As https://cordwain.home:4443. */
	origin: string;
	/** The host's name alone. */
	host: string;
	secure: boolean;
}

function requireSecure(o: Origin): void {
	// An address in numbers is no name that a passkey could belong to.
	if (!o.secure || /^[\d.:[\]]+$/.test(o.host))
		throw new Refusal('not-secure', [
			{
				path: '',
				message:
					'Passkeys want a page that came by TLS and from a name, or localhost. Sign in by name and passphrase here.',
			},
		]);
}
const own = (asker: Asker): number => {
	if (asker.personId === null || asker.shared)
		throw new Refusal('nobody-named', [{ path: '', message: 'Sign in by yourself first.' }]);
	return asker.personId;
};
const WRONG = () =>
	new Refusal('wrong-passkey', [
		{ path: '', message: 'This passkey is not known here, or it was too slow. Try again.' },
	]);

/** @returns what the browser is told to make one */
export async function beginPasskey(db: Db, asker: Asker, o: Origin): Promise<Record<string, unknown>> {
	requireSecure(o);
	const id = own(asker);
	const known = await listPasskeys(db, id);
	const { generateRegistrationOptions } = await webAuthn();
	const options = await generateRegistrationOptions({
		rpName: 'Cordwain',
		rpID: o.host,
		userName: asker.name!,
		userID: new TextEncoder().encode(String(id)),
		excludeCredentials: known.map((k) => ({ id: k.credentialId })),
		authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
	});
	await insertChallenge(db, options.challenge, id);
	return { ...options };
}

/** The challenge that a response answers. */
function challengeOf(response: { response?: { clientDataJSON?: unknown } }): string {
	try {
		const data = JSON.parse(Buffer.from(String(response.response?.clientDataJSON), 'base64url').toString('utf8'));
		return String(data.challenge);
	} catch {
		throw WRONG();
	}
}

export async function keepPasskey(
	db: Db,
	asker: Asker,
	o: Origin,
	{ response, label }: { response: Record<string, unknown>; label: string },
): Promise<void> {
	requireSecure(o);
	const personId = own(asker);
	const expectedChallenge = challengeOf(response);
	if (!(await spendChallenge(db, expectedChallenge, personId))) throw WRONG();
	const { verifyRegistrationResponse } = await webAuthn();
	const found = await verifyRegistrationResponse({
		response: response as unknown as RegistrationResponseJSON,
		expectedChallenge,
		expectedOrigin: o.origin,
		expectedRPID: o.host,
	}).catch(() => null);
	if (!found?.verified) throw WRONG();
	const { credential } = found.registrationInfo;
	await insertPasskey(db, {
		personId,
		credentialId: credential.id,
		publicKey: Buffer.from(credential.publicKey),
		counter: credential.counter,
		transports: credential.transports ?? [],
		label,
	});
}

export async function beginPasskeySignIn(db: Db, o: Origin): Promise<Record<string, unknown>> {
	requireSecure(o);
	const { generateAuthenticationOptions } = await webAuthn();
	const options = await generateAuthenticationOptions({ rpID: o.host, userVerification: 'required' });
	await insertChallenge(db, options.challenge, null);
	return { ...options };
}

export async function signInByPasskey(
	db: Db,
	o: Origin,
	{ response, label }: { response: Record<string, unknown>; label: string },
	{ from, now }: { from: string; now: number },
): Promise<{ name: string; role: Role; token: string }> {
	requireSecure(o);
	const tried = { kind: 'passkey', of: '', from } as const;
	await requirePatience(db, tried, now);
	const expectedChallenge = challengeOf(response);
	const fresh = await spendChallenge(db, expectedChallenge, null);
	const known = fresh ? await passkeyByCredential(db, String(response.id)) : null;
	const { verifyAuthenticationResponse } = await webAuthn();
	const found =
		known &&
		(await verifyAuthenticationResponse({
			response: response as unknown as AuthenticationResponseJSON,
			expectedChallenge,
			expectedOrigin: o.origin,
			expectedRPID: o.host,
			credential: { id: known.credentialId, publicKey: new Uint8Array(known.publicKey), counter: known.counter },
		}).catch(() => null));
	const person = known && found?.verified ? await personById(db, known.personId) : null;
	const role = person ? await roleSomewhere(db, person.id) : null;
	if (!known || !found?.verified || !person || role === null) {
		await wasWrong(db, tried);
		throw WRONG();
	}
	await usedPasskey(db, known.id, found.authenticationInfo.newCounter);
	return { name: person.name, role, token: await beginSignIn(db, person.id, label, now) };
}

/** One’s own; none where nobody in particular asks. */
export const ownPasskeys = async (db: Db, asker: Asker) =>
	asker.personId === null || asker.shared ? [] : listPasskeys(db, asker.personId);

export async function forgetPasskey(db: Db, asker: Asker, id: number): Promise<void> {
	if (!(await deletePasskey(db, own(asker), id)))
		throw new Refusal('no-such-id', [{ path: 'id', message: 'There is no such passkey of yours.' }]);
}
