import { describe, expect, it } from 'vitest';
import { signatureOf } from '@/server/watch/webhook';

describe('a signed message', () => {
	it('is signed as HMAC-SHA-256 signs (reckoned with openssl dgst -sha256 -hmac; RFC 2104)', () => {
		// printf '1700000000.{"a":1}' | openssl dgst -sha256 -hmac key
		expect(signatureOf('key', 1_700_000_000, '{"a":1}')).toBe(
			'a438e398bfafc57e4396bb7fc2304422f0f768e965d073ca313cb52e22e6ad03',
		);
	});
});
