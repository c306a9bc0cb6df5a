import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freshDatabase } from './database';

export interface Application {
	base: string;
	databaseUrl: string;
	pid: number;
	stop: () => Promise<void>;
	kill: () => Promise<void>;
}

/** A port that nobody listens on. */
export const freePort = (): Promise<number> =>
	new Promise((resolve) => {
		const server = createServer().listen(0, '127.0.0.1', () => {
			const address = server.address();
			server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
		});
	});

async function end(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
	if (child.exitCode !== null || child.signalCode !== null) return;
	const gone = new Promise((resolve) => child.once('exit', resolve));
	child.kill(signal);
	await gone;
}

/** The built application on a port and a database of its own. */
export async function startApplication(
	from: 'empty' | 'demo' | { databaseUrl: string },
	/** Hears what it writes to its log, every request among it. */
	log?: (text: string) => void,
	/** Beside what is usual: of the environment. */
	more: Record<string, string> = {},
): Promise<Application> {
	const databaseUrl = typeof from === 'object' ? from.databaseUrl : await freshDatabase(from);
	const port = await freePort();
	const backups = mkdtempSync(join(tmpdir(), 'cordwain-test-backups-'));
	const child = spawn(process.execPath, [join(import.meta.dirname, '../../ops/serve.mjs')], {
		env: {
			...process.env,
			DATABASE_URL: databaseUrl,
			HOST: '127.0.0.1',
			PORT: String(port),
			NODE_ENV: 'production',
			CORDWAIN_CHECK_ROWS: '1',
			CORDWAIN_JOBS: 'off',
			CORDWAIN_BACKUPS: backups,
			...more,
			...(log ? { CORDWAIN_LOG: 'info' } : {}),
		},
		stdio: ['ignore', 'ignore', log ? 'pipe' : 'inherit'],
	});
	if (log) child.stderr?.on('data', (d) => log(String(d)));
	const base = `http://127.0.0.1:${port}`;
	for (let tries = 0; ; tries++) {
		// Whatever it answers, it answers.
		const ok = await fetch(`${base}/mark.svg`).then(
			() => true,
			() => false,
		);
		if (ok) break;
		if (tries > 200 || child.exitCode !== null) throw new Error('The application did not start.');
		await new Promise((resolve) => setTimeout(resolve, 50));
	}
	const ended = (signal: NodeJS.Signals) =>
		end(child, signal).finally(() => rmSync(backups, { recursive: true, force: true }));
	return { base, databaseUrl, pid: child.pid!, stop: () => ended('SIGTERM'), kill: () => ended('SIGKILL') };
}

/** What an answer may hold; tests look only at what they name. */
// biome-ignore lint/suspicious/noExplicitAny: answers of every shape pass here
export type Answer = any;

export async function postJson(
	base: string,
	path: string,
	body: unknown,
	headers: Record<string, string> = {},
): Promise<{ status: number; body: Answer }> {
	const response = await fetch(`${base}/api/v1${path}`, {
		method: 'POST',
		headers: { 'content-type': 'application/json', ...headers },
		body: typeof body === 'string' ? body : JSON.stringify(body),
	});
	return { status: response.status, body: await response.json().catch(() => null) };
}

/** The demo ends in July 2026; this dips its probes in a standard today, so that they are not overdue. @param but one that is left as it was */
export async function calibrateToday(base: string, but?: string): Promise<void> {
	for (const [instrument, quantity, standard, nominal] of [
		['plum', 'ph', 'pH 7.00', 7],
		['plum', 'ec', 'KCl 1413', 1413],
		['brass', 'ph', 'pH 7.00', 7],
		['minnow', 'ec', 'KCl 1413', 1413],
	] as const) {
		if (instrument === but) continue;
		const { status } = await postJson(base, '/calibrations', {
			instrument,
			quantity,
			kind: 'check',
			temp_c: 20,
			points: [{ standard, nominal, as_found: nominal }],
		});
		if (status !== 201) throw new Error(`The calibration of ${instrument} was refused: ${status}`);
	}
}

/** The grower of the demo stirs by hand: what is poured has mixed at once, and tests need not wait for it. */
export async function stirByHand(base: string): Promise<void> {
	for (const [code, kind] of [
		['mix', 'mix'],
		['pond', 'reservoir'],
		['slabs', 'reservoir'],
		['bench', 'reservoir'],
	] as const) {
		const { status } = await postJson(base, '/stations', { code, kind, mix_minutes: 0 });
		if (status !== 201) throw new Error(`The station ${code} was refused: ${status}`);
	}
}
