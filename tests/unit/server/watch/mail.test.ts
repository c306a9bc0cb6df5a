import nodemailer from 'nodemailer';
import { describe, expect, it } from 'vitest';
import { readMail } from '@/server/watch/mail';

describe('a mail', () => {
	it.each([
		['plain', 'Pond: low', 'The tank is low.'],
		['beyond ASCII', 'Pond: pH – «6,9» µS', 'Leitfähigkeit 1,7 mS/cm – “über” 20 °C.'],
		['long', `Pond ${'x'.repeat(150)}`, `${'a long line '.repeat(40).trim()}\nand another = sign`],
	])('comes out as it went in: %s', async (_, subject, text) => {
		// Written by the mailing library.
		const { message } = await nodemailer
			.createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
			.sendMail({ from: 'a@b.example', to: 'c@d.example', subject, text });
		expect(readMail(String(message))).toEqual({ subject, body: text });
	});
});
