import nodemailer from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import type { Pool } from '@/store/pool';
import { insertStandInMail, type MailSettings } from '@/store/watch';
import { log } from '../log';

/** The name of the mail server that stands in: a mailbox of this machine, for a first look. */
export const STAND_IN = 'mailbox';
const PATIENCE_MS = 15_000;

/** Sends one mail. @throws with what the server said */
export async function sendMail(
	s: MailSettings,
	mail: { subject: string; text: string },
	standInPort: number | undefined,
): Promise<void> {
	const inside = s.host === STAND_IN;
	if (inside && standInPort === undefined) throw new Error('No mailbox stands in here; name your mail server.');
	const transport = nodemailer.createTransport({
		host: inside ? '127.0.0.1' : s.host,
		port: inside ? standInPort! : s.port,
		secure: inside ? false : s.secure,
		ignoreTLS: inside,
		...(s.user === '' || inside ? {} : { auth: { user: s.user, pass: s.password } }),
		connectionTimeout: PATIENCE_MS,
		greetingTimeout: PATIENCE_MS,
		socketTimeout: PATIENCE_MS,
	});
	try {
		await transport.sendMail({ from: s.from, to: s.to, subject: mail.subject, text: mail.text });
	} finally {
		transport.close();
	}
}

const MOST_BYTES = 100_000;

/** A mail server on this machine alone that keeps what it is sent, to be looked at. */
export function openMailbox(pool: Pool, port: number): SMTPServer {
	const server = new SMTPServer({
		authOptional: true,
		disabledCommands: ['STARTTLS', 'AUTH'],
		size: MOST_BYTES,
		onData(stream, session, done) {
			const chunks: Buffer[] = [];
			stream.on('data', (c: Buffer) => chunks.push(c));
			stream.on('end', () => {
				const { subject, body } = readMail(Buffer.concat(chunks).toString('utf8'));
				const { mailFrom, rcptTo } = session.envelope;
				insertStandInMail(pool, {
					sender: mailFrom === false ? '' : mailFrom.address,
					recipient: rcptTo.map((r) => r.address).join(', '),
					subject,
					body,
				}).then(() => done(), done);
			});
		},
	});
	server.on('error', (error) => log.warn({ error }, 'mailbox'));
	server.listen(port, '127.0.0.1');
	return server;
}

/**
 * Subject and text of a plain mail (RFC 5322; quoted-printable of RFC 2045, encoded words of RFC 2047).
 * @example readMail('Subject: pond\r\n\r\nlow').body // 'low'
 */
export function readMail(source: string): { subject: string; body: string } {
	const [head = '', ...rest] = source.split(/\r?\n\r?\n/);
	const header = (name: string) =>
		new RegExp(`^${name}:((?:.*(?:\\r?\\n[ \\t])?)*)`, 'im')
			.exec(head)?.[1]
			?.replace(/\r?\n[ \t]/g, ' ')
			.trim() ?? '';
	const word = (_: string, __: string, kind: string, text: string) =>
		kind.toUpperCase() === 'B' ? Buffer.from(text, 'base64').toString('utf8') : quoted(text.replaceAll('_', ' '));
	const subject = header('subject')
		.replace(/\?=\s+=\?/g, '?==?')
		.replace(/=\?([\w-]+)\?([bq])\?([^?]*)\?=/gi, word);
	const body = rest.join('\n\n').replace(/\r\n/g, '\n').trimEnd();
	const encoding = header('content-transfer-encoding').toLowerCase();
	return {
		subject: subject.slice(0, 200),
		body:
			encoding === 'quoted-printable'
				? quoted(body.replace(/=\n/g, ''))
				: encoding === 'base64'
					? Buffer.from(body, 'base64').toString('utf8')
					: body,
	};
}
/** Octets written as `=C3`, among text that stands for itself. */
const quoted = (text: string): string =>
	Buffer.concat(
		text
			.split(/(=[0-9A-F]{2})/i)
			.map((part) => (/^=[0-9A-F]{2}$/i.test(part) ? Buffer.from(part.slice(1), 'hex') : Buffer.from(part))),
	).toString('utf8');
