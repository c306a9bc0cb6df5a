import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';

const folder = mkdtempSync(join(tmpdir(), 'cordwain-seal-'));
const elsewhere = mkdtempSync(join(tmpdir(), 'cordwain-seal-'));
/** The module as a server of its own has it. */
async function server(dataFolder: string) {
	vi.resetModules();
	process.env.CORDWAIN_DATA = dataFolder;
	return import('@/server/seal');
}
let before: string | undefined;
beforeAll(() => {
	before = process.env.CORDWAIN_DATA;
});
afterAll(() => {
	if (before === undefined) delete process.env.CORDWAIN_DATA;
	else process.env.CORDWAIN_DATA = before;
	vi.resetModules();
	for (const f of [folder, elsewhere]) rmSync(f, { recursive: true, force: true });
});

describe('what is sealed', () => {
	it('is opened by the next server with the same data folder, whose key nobody else reads', async () => {
		const { seal } = await server(folder);
		const sealed = seal('hush, ŵord', 'mail');
		expect(sealed).not.toContain('hush');
		expect(seal('hush, ŵord', 'mail')).not.toBe(sealed);
		expect(statSync(join(folder, 'secret.key')).mode & 0o777).toBe(0o600);
		const { unseal } = await server(folder);
		expect(unseal(sealed, 'mail')).toBe('hush, ŵord');
	});
	it('is opened for nothing else, not after a letter was changed, and by no other machine', async () => {
		const here = await server(folder);
		const sealed = here.seal('hush', 'mail');
		expect(() => here.unseal(sealed, 'webhook')).toThrow(here.WrongKey);
		const bytes = Buffer.from(sealed.slice(7), 'base64');
		bytes[bytes.length - 1]! ^= 1;
		expect(() => here.unseal(`sealed:${bytes.toString('base64')}`, 'mail')).toThrow(here.WrongKey);
		expect(() => here.unseal('sealed:AAAA', 'mail')).toThrow(here.WrongKey);
		const there = await server(elsewhere);
		expect(() => there.unseal(sealed, 'mail')).toThrow(/Type it again/);
	});
	it('stays as it is when it is kept on; what was kept before anything was sealed is sealed then', async () => {
		const { seal, stillSealed, unseal } = await server(folder);
		const sealed = seal('hush', 'mail');
		expect(stillSealed(sealed, 'mail')).toBe(sealed);
		expect(unseal('hush', 'mail')).toBe('hush');
		expect(stillSealed('hush', 'mail')).not.toContain('hush');
		expect(unseal(stillSealed('hush', 'mail'), 'mail')).toBe('hush');
		expect(stillSealed('', 'mail')).toBe('');
	});
	it('is nothing where nothing was set; what begins as if it were sealed is sealed all the same', async () => {
		const { seal, unseal } = await server(folder);
		expect(seal('', 'mail')).toBe('');
		expect(unseal('', 'mail')).toBe('');
		expect(unseal(seal('sealed:AAAA', 'mail'), 'mail')).toBe('sealed:AAAA');
	});
});
