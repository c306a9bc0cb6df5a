import { networkInterfaces } from 'node:os';
import { people as resource } from '@/contract/people';
import {
	beginPasskey,
	beginPasskeySignIn,
	forgetPasskey,
	keepPasskey,
	ownPasskeys,
	signInByPasskey,
} from '@/service/people/passkeys';
import {
	changePerson,
	changeSecrets,
	everybody,
	join,
	joinToo,
	makeJoinCode,
	nameOwner,
	whoHasPin,
} from '@/service/people/people';
import {
	endOne,
	leaveDevice,
	makeShared,
	namesThemselves,
	sayWhoMeasures,
	signIn,
	signInsSeenBy,
	signOut,
} from '@/service/people/sign-ins';
import { Refusal } from '@/service/refusal';
import { settings } from '../../../ops/settings.mjs';
import { type Connection, isLoopbackName, nameOfHost } from '../connection';
import { handle } from '../dispatch';

const originOf = ({ origin, host, secure }: Connection) => {
	const name = nameOfHost(host);
	return { origin, host: name, secure: secure || isLoopbackName(name) };
};

/** Where others open it: as this page was opened, or by the local network. */
function addressForOthers({ origin, host }: Connection): string {
	const { CORDWAIN_LAN: lan, CORDWAIN_TLS_PORT: port } = settings();
	if (!lan || !isLoopbackName(nameOfHost(host))) return origin;
	const own = Object.values(networkInterfaces())
		.flatMap((all) => all ?? [])
		.find((a) => a.family === 'IPv4' && !a.internal);
	return own ? `https://${own.address}:${port}` : origin;
}

export const people = handle(resource, {
	'GET /me': ({ asker, connection }) => ({
		open: asker.open,
		name: asker.open ? null : asker.name,
		role: asker.role,
		shared: asker.shared,
		secure: originOf(connection).secure,
		site: asker.role === null ? '' : (asker.site?.name ?? ''),
		siteId: asker.role === null ? null : (asker.site?.id ?? null),
		owner: asker.owner,
	}),
	'POST /people/owner': async ({ db, body, now, connection, signsIn }) => {
		if (!connection.here)
			throw new Refusal('not-here', [
				{ path: '', message: 'The first grower is named on the machine that Cordwain runs on.' },
			]);
		const { token, ...named } = await nameOwner(db, body, { now });
		namesThemselves();
		signsIn(token);
		return { ...named, token: null };
	},
	'POST /sign-in': async ({ db, body, now, connection, signsIn }) => {
		const { token, ...found } = await signIn(db, body, { from: connection.from, now });
		if (body.as === 'cookie') signsIn(token);
		return { ...found, token: body.as === 'token' ? token : null };
	},
	'POST /sign-out': async ({ db, asker, signsIn }) => {
		await signOut(db, asker);
		signsIn(null);
		return { ok: true };
	},
	'GET /sign-ins': async ({ db, asker }) => ({ sign_ins: await signInsSeenBy(db, asker) }),
	'DELETE /sign-ins/:id': async ({ db, asker, params }) => {
		await endOne(db, asker, params.id);
		return { ok: true };
	},
	'GET /people': async ({ db, asker }) => ({ people: await everybody(db, asker) }),
	'PUT /people/:id': async ({ db, asker, params, body }) => {
		await changePerson(db, asker, params.id, body);
		return { ok: true };
	},
	'POST /people/codes': async ({ db, asker, body, now, connection }) => {
		const { code, expiresAt } = await makeJoinCode(db, asker, body.role, now);
		const address = `${addressForOthers(connection)}/join#${code}`;
		const { default: QRCode } = await import('qrcode');
		return { code, expiresAt, address, qr: await QRCode.toString(address, { type: 'svg', margin: 2 }) };
	},
	'POST /people/join': async ({ db, body, now, connection, signsIn }) => {
		const { token, ...joined } = await join(db, body, { from: connection.from, now });
		signsIn(token);
		return { ...joined, token: null };
	},
	'POST /me/join': async ({ db, asker, body, now, connection }) => ({
		siteId: await joinToo(db, asker, body.code, { from: connection.from, now }),
	}),
	'PUT /me': async ({ db, asker, body, now, connection }) => {
		await changeSecrets(db, asker, body, { from: connection.from, now });
		return { ok: true };
	},
	'POST /shared-device': async ({ db, asker, body, now }) => {
		await makeShared(db, asker, body.label, now);
		return { ok: true };
	},
	'GET /shared-device/people': async ({ db, asker }) => ({ people: await whoHasPin(db, asker) }),
	'POST /shared-device/person': async ({ db, asker, body, now, connection }) => ({
		name: await sayWhoMeasures(db, asker, body, { from: connection.from, now }),
	}),
	'POST /shared-device/leave': async ({ db, asker }) => {
		await leaveDevice(db, asker);
		return { ok: true };
	},
	'POST /passkeys/begin': async ({ db, asker, connection }) => ({
		options: await beginPasskey(db, asker, originOf(connection)),
	}),
	'POST /passkeys': async ({ db, asker, connection, body }) => {
		await keepPasskey(db, asker, originOf(connection), body);
		return { ok: true };
	},
	'GET /passkeys': async ({ db, asker }) => ({ passkeys: await ownPasskeys(db, asker) }),
	'DELETE /passkeys/:id': async ({ db, asker, params }) => {
		await forgetPasskey(db, asker, params.id);
		return { ok: true };
	},
	'POST /passkeys/sign-in/begin': async ({ db, connection }) => ({
		options: await beginPasskeySignIn(db, originOf(connection)),
	}),
	'POST /passkeys/sign-in': async ({ db, body, now, connection, signsIn }) => {
		const { token, ...found } = await signInByPasskey(db, originOf(connection), body, { from: connection.from, now });
		signsIn(token);
		return { ...found, token: null };
	},
});
