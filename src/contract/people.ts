import { z } from 'zod';
import { ROLES } from '@/core/roles/roles';
import { byId, done, instant } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const personName = z.string().trim().min(1, 'must not be empty').max(80, 'at most 80 characters');
/** Long enough that guessing is no use (OWASP ASVS 4.0.3, 2.1.1 and 2.1.2). */
const passphrase = z
	.string()
	.min(12, 'at least 12 characters: four words are easier kept than one riddle')
	.max(128, 'at most 128 characters');
/** As it is typed to sign in: whatever it is, it is right or wrong. */
const typed = z.string().max(1000);
const pin = z.string().regex(/^\d{4,8}$/, '4 to 8 digits');
const role = z.enum(ROLES);
const label = z.string().trim().max(200);

const me = wire({
	open: z.boolean().describe('nobody has been named yet: whoever sits at this machine is the grower'),
	name: z.string().nullable().describe('null: nobody is signed in, or nobody has said who measures'),
	role: role.nullable(),
	shared: z.boolean().describe('this device stays, and whoever measures with it says so by a PIN'),
	secure: z.boolean().describe('passkeys can be used: the page came by TLS, or from this machine'),
	site: z.string(),
	site_id: z.number().nullable().describe('the site that this answer is of'),
	owner: z.boolean().describe('named first: the installation is theirs'),
});
const signedIn = wire({
	name: z.string(),
	role,
	token: z.string().nullable().describe('for scripts that asked for it: goes as Authorization: Bearer'),
});
const person = wire({
	id: z.number(),
	name: z.string(),
	role,
	owner: z.boolean().describe('named first: stays a grower of every site'),
	has_pin: z.boolean(),
	passkeys: z.number(),
	ended: z.boolean(),
	made_at: instant,
	seen_at: instant.nullable(),
});
const signIn = wire({
	id: z.number(),
	person: z.string(),
	shared: z.boolean(),
	label: z.string(),
	made_at: instant,
	seen_at: instant,
	here: z.boolean().describe('the one that asks'),
});
const passkey = wire({ id: z.number(), label: z.string(), made_at: instant, used_at: instant.nullable() });
/** As browsers and passkeys speak it (W3C WebAuthn level 2). */
const webAuthn = z.record(z.string(), z.unknown());

export type Me = z.input<typeof me>;
export type PersonShown = z.input<typeof person>;

export const people = resource(
	'People',
	{
		'GET /me': { summary: 'Who asks, as far as it is known', answer: me },
		'POST /people/owner': {
			summary: 'Names the first grower, from this machine alone and once; from then on everybody signs in',
			body: wire({ name: personName, passphrase }),
			storesNothing: true,
			answer: signedIn,
			status: 201,
			problems: ['owner-is-named', 'not-here', 'weak-passphrase'],
		},
		'POST /sign-in': {
			summary:
				'Signs in by name and passphrase; the answer sets a cookie, or gives a token to a script that asks for it. Wrong tries are slowed; the answer to them is the same whether there is such a name or not',
			body: wire({
				name: typed,
				passphrase: typed,
				as: z.enum(['cookie', 'token']).default('cookie'),
				label: label.default(''),
			}),
			storesNothing: true,
			answer: signedIn,
			problems: ['wrong-sign-in', 'too-often'],
		},
		'POST /sign-out': { summary: 'Ends this sign-in', storesNothing: true, answer: done },
		'GET /sign-ins': {
			summary: 'Where one is signed in; a grower sees everybody’s',
			answer: z.object({ sign_ins: z.array(signIn) }),
		},
		'DELETE /sign-ins/:id': {
			summary: 'Ends a sign-in of one’s own; a grower ends any',
			params: byId,
			storesNothing: true,
			answer: done,
			problems: ['no-such-id'],
		},
		'GET /people': { summary: 'Everybody with a role here', answer: z.object({ people: z.array(person) }) },
		'PUT /people/:id': {
			summary:
				'Another role for somebody, or the end of it: ended, nobody signs in by that name any more. One grower stays',
			params: byId,
			body: wire({ role: role.optional(), ended: z.boolean().optional() }),
			storesNothing: true,
			answer: done,
			problems: ['no-such-id', 'last-grower'],
		},
		'POST /people/codes': {
			summary: 'A code by which one person joins, once and within half an hour, shown this once',
			body: z.strictObject({ role }),
			storesNothing: true,
			problems: ['nobody-named'],
			answer: wire({ code: z.string(), expires_at: instant, address: z.string(), qr: z.string().describe('SVG') }),
			status: 201,
		},
		'POST /people/join': {
			summary:
				'Joins by a code: a name and a passphrase of one’s own, and a PIN for shared devices where one is wanted',
			body: wire({ code: typed, name: personName, passphrase, pin: pin.optional() }),
			storesNothing: true,
			answer: signedIn,
			status: 201,
			problems: ['wrong-code', 'name-is-taken', 'too-often', 'weak-passphrase'],
		},
		'POST /me/join': {
			summary: 'Joins one more site by a code, as who one is already',
			body: z.strictObject({ code: typed }),
			storesNothing: true,
			answer: wire({ site_id: z.number() }),
			status: 201,
			problems: ['wrong-code', 'too-often', 'nobody-named'],
		},
		'PUT /me': {
			summary: 'Another passphrase, another PIN (null: none); the passphrase so far is asked for',
			body: wire({ so_far: typed, passphrase: passphrase.optional(), pin: pin.nullish() }),
			storesNothing: true,
			answer: done,
			problems: ['nobody-named', 'wrong-sign-in', 'too-often', 'weak-passphrase'],
		},
		'POST /shared-device': {
			summary: 'Makes this sign-in one of a device that several share: it looks, and whoever measures says so by a PIN',
			body: z.strictObject({ label }),
			storesNothing: true,
			answer: done,
			problems: ['nobody-named'],
		},
		'GET /shared-device/people': {
			summary: 'Who can say by a PIN that they measure, on a shared device',
			answer: z.object({ people: z.array(z.object({ id: z.number(), name: z.string() })) }),
		},
		'POST /shared-device/person': {
			summary: 'Says who measures with this device, by a PIN; no more than a helper may is done so',
			body: z.strictObject({ id: z.number(), pin: typed }),
			storesNothing: true,
			answer: z.object({ name: z.string() }),
			problems: ['wrong-sign-in', 'too-often', 'not-shared'],
		},
		'POST /shared-device/leave': {
			summary: 'Nobody measures with this device for now',
			storesNothing: true,
			answer: done,
		},
		'POST /passkeys/begin': {
			summary: 'What the browser is told to make a passkey',
			storesNothing: true,
			answer: z.object({ options: webAuthn }),
			problems: ['not-secure', 'nobody-named'],
		},
		'POST /passkeys': {
			summary: 'Keeps a passkey that the browser made',
			body: z.strictObject({ response: webAuthn, label }),
			storesNothing: true,
			answer: done,
			status: 201,
			problems: ['wrong-passkey', 'not-secure', 'nobody-named'],
		},
		'GET /passkeys': { summary: 'One’s own passkeys', answer: z.object({ passkeys: z.array(passkey) }) },
		'DELETE /passkeys/:id': {
			summary: 'Forgets a passkey of one’s own',
			params: byId,
			storesNothing: true,
			answer: done,
			problems: ['no-such-id', 'nobody-named'],
		},
		'POST /passkeys/sign-in/begin': {
			summary: 'What the browser is told to sign in by a passkey',
			storesNothing: true,
			answer: z.object({ options: webAuthn }),
			problems: ['not-secure'],
		},
		'POST /passkeys/sign-in': {
			summary: 'Signs in by a passkey',
			body: z.strictObject({ response: webAuthn, label: label.default('') }),
			storesNothing: true,
			answer: signedIn,
			problems: ['wrong-passkey', 'too-often', 'not-secure'],
		},
	},
	{ ofInstallation: true },
);
