import { createHmac } from 'node:crypto';
import type { WebhookSettings } from '@/store/watch';

const PATIENCE_MS = 15_000;

/**
 * What a message is signed with: HMAC with SHA-256 over the second it was sent, a full stop and its body, in hexadecimal (RFC 2104).
 * Whoever receives it reckons the same and refuses what is older than some minutes.
 */
export const signatureOf = (secret: string, second: number, body: string): string =>
	createHmac('sha256', secret).update(`${second}.${body}`).digest('hex');

/** Sends one message to the address that the grower named. @throws with what was answered */
export async function sendWebhook(s: WebhookSettings, message: object, now: number): Promise<void> {
	const body = JSON.stringify(message);
	const second = Math.floor(now / 1000);
	const response = await fetch(s.url, {
		method: 'POST',
		headers: {
			'content-type': 'application/json',
			'cordwain-time': String(second),
			...(s.secret === '' ? {} : { 'cordwain-signature': signatureOf(s.secret, second, body) }),
		},
		body,
		redirect: 'error',
		signal: AbortSignal.timeout(PATIENCE_MS),
	});
	await response.body?.cancel();
	if (!response.ok) throw new Error(`It answered ${response.status}.`);
}
