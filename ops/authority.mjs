// A local authority of this installation, and the certificate that it gives the server: for phones in the same network.
import { webcrypto } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import 'reflect-metadata';
import * as x509 from '@peculiar/x509';

x509.cryptoProvider.set(webcrypto);

const DAY = 86_400_000;
const ROOT_DAYS = 3650;
/** Phones refuse what lasts longer than 825 days; it is made anew long before its end. */
const SERVER_DAYS = 397;
const ANEW_DAYS = 60;
const KEYS = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };

const pem = (text, label) => `-----BEGIN ${label}-----\n${text.match(/.{1,64}/g).join('\n')}\n-----END ${label}-----\n`;
const keyPem = async (key) =>
	pem(Buffer.from(await webcrypto.subtle.exportKey('pkcs8', key)).toString('base64'), 'PRIVATE KEY');
const keyOf = (text) =>
	webcrypto.subtle.importKey('pkcs8', Buffer.from(text.replace(/-----[^-]+-----|\s/g, ''), 'base64'), KEYS, true, [
		'sign',
	]);
const serial = () => Buffer.from(webcrypto.getRandomValues(new Uint8Array(15))).toString('hex');

/** Everything that this machine is called in its own network. */
export function ownNames() {
	const name = hostname().toLowerCase();
	const names = new Set(['localhost', ...(/^[\w-]+$/.test(name) ? [name, `${name}.local`] : [])]);
	const addresses = new Set(['127.0.0.1', '::1']);
	for (const all of Object.values(networkInterfaces()))
		for (const a of all ?? []) if (!a.internal && !a.address.startsWith('fe80')) addresses.add(a.address);
	return { names: [...names].sort(), addresses: [...addresses].sort() };
}

/** The addresses at which others in the network find this machine. */
export const lanAddresses = () =>
	Object.values(networkInterfaces())
		.flatMap((all) => all ?? [])
		.filter((a) => a.family === 'IPv4' && !a.internal)
		.map((a) => a.address);

async function makeRoot(directory) {
	const keys = await webcrypto.subtle.generateKey(KEYS, true, ['sign', 'verify']);
	const now = Date.now();
	const root = await x509.X509CertificateGenerator.createSelfSigned({
		serialNumber: serial(),
		name: `CN=Cordwain on ${hostname().replace(/[^\w.-]/g, '')}`,
		notBefore: new Date(now - DAY),
		notAfter: new Date(now + ROOT_DAYS * DAY),
		signingAlgorithm: KEYS,
		keys,
		extensions: [
			new x509.BasicConstraintsExtension(true, 0, true),
			new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign, true),
			await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
		],
	});
	writeFileSync(join(directory, 'root-key.pem'), await keyPem(keys.privateKey), { mode: 0o600 });
	writeFileSync(join(directory, 'root.crt'), root.toString('pem'));
}

/** Whether a certificate is good for all that the machine is called now, and for a while. */
function stillGood(text, wanted) {
	const certificate = new x509.X509Certificate(text);
	if (certificate.notAfter.getTime() < Date.now() + ANEW_DAYS * DAY) return false;
	const names = certificate.getExtension(x509.SubjectAlternativeNameExtension)?.names.toJSON() ?? [];
	const has = new Set(names.map((n) => n.value.toLowerCase()));
	return [...wanted.names, ...wanted.addresses].every((n) => has.has(n));
}

/**
 * The server's certificate and key, made where there are none, made anew where the machine has another address.
 * @param dataDir folder of the installation; what is secret in it is readable by this account alone
 * @returns {Promise<{ cert: string, key: string, root: string }>} PEM
 */
export async function ownCertificate(dataDir) {
	const directory = join(dataDir, 'tls');
	mkdirSync(directory, { recursive: true, mode: 0o700 });
	const file = (name) => join(directory, name);
	if (!existsSync(file('root.crt')) || !existsSync(file('root-key.pem'))) await makeRoot(directory);
	const root = readFileSync(file('root.crt'), 'utf8');
	const wanted = ownNames();
	if (!existsSync(file('server.crt')) || !stillGood(readFileSync(file('server.crt'), 'utf8'), wanted)) {
		const issuer = new x509.X509Certificate(root);
		const keys = await webcrypto.subtle.generateKey(KEYS, true, ['sign', 'verify']);
		const now = Date.now();
		const certificate = await x509.X509CertificateGenerator.create({
			serialNumber: serial(),
			subject: 'CN=Cordwain',
			issuer: issuer.subject,
			notBefore: new Date(now - DAY),
			notAfter: new Date(now + SERVER_DAYS * DAY),
			signingAlgorithm: KEYS,
			publicKey: keys.publicKey,
			signingKey: await keyOf(readFileSync(file('root-key.pem'), 'utf8')),
			extensions: [
				new x509.BasicConstraintsExtension(false, undefined, true),
				new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
				new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
				new x509.SubjectAlternativeNameExtension([
					...wanted.names.map((value) => ({ type: 'dns', value })),
					...wanted.addresses.map((value) => ({ type: 'ip', value })),
				]),
				await x509.AuthorityKeyIdentifierExtension.create(issuer.publicKey),
			],
		});
		writeFileSync(file('server-key.pem'), await keyPem(keys.privateKey), { mode: 0o600 });
		writeFileSync(file('server.crt'), certificate.toString('pem'));
	}
	return { cert: readFileSync(file('server.crt'), 'utf8'), key: readFileSync(file('server-key.pem'), 'utf8'), root };
}
