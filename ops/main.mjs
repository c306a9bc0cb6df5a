// npm run demo, npm start and npm test all begin here.
import { spawn } from 'node:child_process';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import {
	checkNode,
	ensureBuild,
	ensureDebianPackages,
	ensureNpmPackages,
	postgresBinaries,
	root,
	SetupError,
	say,
} from './bootstrap.mjs';
import { ensureDatabase, startCluster, usualDataDir } from './cluster.mjs';
import { runTests } from './test.mjs';

/** What the environment says; its schema needs a package, and so comes after those are installed. */
async function settings() {
	const { settings: read } = await import('./settings.mjs');
	try {
		const s = read();
		return {
			host: s.HOST,
			port: s.PORT,
			tlsPort: s.CORDWAIN_TLS_PORT,
			// Asked for only where it is needed: with a database of one's own nothing has to hold a cluster.
			dataDir: process.env.CORDWAIN_DATA || s.DATABASE_URL ? resolve(root, s.CORDWAIN_DATA) : usualDataDir(root),
			external: s.DATABASE_URL,
			all: s,
		};
	} catch (error) {
		throw new SetupError(error.message);
	}
}

function portIsFree(host, port) {
	return new Promise((done) => {
		const probe = createServer();
		probe.once('error', () => done(false));
		probe.listen(port, host, () => probe.close(() => done(true)));
	});
}

const alive = (pid) => {
	try {
		process.kill(pid, 0);
		return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('main.mjs');
	} catch {
		return false;
	}
};

/** Mailbox and broker of the demo listen so far from its own port. */
const MAILBOX_AWAY = 25;
const BROKER_AWAY = 26;

/** One Cordwain per data directory: two would stop each other's database. */
function claim(dataDir) {
	try {
		mkdirSync(dataDir, { recursive: true, mode: 0o711 });
		accessSync(dataDir, constants.W_OK);
	} catch {
		throw new SetupError(
			`The folder ${dataDir} cannot be written to. Give this account the right to, or choose another: CORDWAIN_DATA=/path/to/folder`,
		);
	}
	const file = join(dataDir, 'running.json');
	if (existsSync(file)) {
		try {
			const other = JSON.parse(readFileSync(file, 'utf8'));
			if (other.pid !== process.pid && alive(other.pid))
				throw new SetupError(
					`Cordwain is already running from this data directory (process ${other.pid}, ${other.address}). Stop it first, or set CORDWAIN_DATA and PORT for a second one.`,
				);
		} catch (error) {
			if (error instanceof SetupError) throw error;
		}
	}
	return {
		file,
		write: (address, database) => {
			// It holds the password of the database: one that was left by a crash keeps its rights no longer.
			rmSync(file, { force: true });
			writeFileSync(file, JSON.stringify({ pid: process.pid, address, database }), { mode: 0o600 });
		},
	};
}

function prepare(databaseUrl, demo, lan) {
	return new Promise((done, fail) => {
		const child = spawn(
			process.execPath,
			[join(root, 'ops/run.mjs'), 'ops/prepare.ts', ...(demo ? ['--demo'] : []), ...(lan ? ['--lan'] : [])],
			{
				cwd: root,
				env: { ...process.env, DATABASE_URL: databaseUrl },
				stdio: ['ignore', 'inherit', 'pipe'],
			},
		);
		let errors = '';
		child.stderr.on('data', (d) => {
			errors += d;
		});
		child.on('exit', (code) =>
			code === 0 ? done() : fail(new SetupError(errors.trim() || 'The database could not be prepared.')),
		);
	});
}

/** Address and code for the phones of the house. */
async function sayWhereOthersFindIt({ port, tlsPort, ownAuthority }) {
	const { lanAddresses } = await import('./authority.mjs');
	const { default: QRCode } = await import('qrcode');
	const addresses = lanAddresses();
	if (addresses.length === 0) {
		say('This machine has no address in a local network; others cannot reach it yet.');
		return;
	}
	for (const a of addresses) say(`In the local network: https://${a}:${tlsPort}`);
	// What a phone opens first: how it learns to trust the certificate that was made here.
	const first = ownAuthority ? `http://${addresses[0]}:${port}/trust` : `https://${addresses[0]}:${tlsPort}`;
	say(await QRCode.toString(first, { type: 'terminal', small: true }));
	say(`The code leads to ${first}. Who joins needs a code of their own, from People.`);
}

async function serve({ demo, lan }) {
	if (lan) process.env.CORDWAIN_LAN = '1';
	ensureNpmPackages();
	const { host, port, tlsPort, dataDir, external, all } = await settings();
	ensureDebianPackages({ database: !external, browser: false });
	const lock = claim(dataDir);
	if (!(await portIsFree(host, port)))
		throw new SetupError(
			`Port ${port} is already in use. Stop what uses it, or choose another: PORT=4401 npm ${demo ? 'run demo' : 'start'}`,
		);
	await ensureBuild();
	const address = `http://${host === '::1' ? '[::1]' : host}:${port}`;
	lock.write(address);

	let cluster;
	let stopping;
	let server;
	const stop = (code) => {
		stopping ??= (async () => {
			await server?.stop();
			await cluster?.stop();
			rmSync(lock.file, { force: true });
			process.exit(code);
		})();
		return stopping;
	};
	process.on('SIGINT', () => stop(0));
	process.on('SIGTERM', () => stop(0));
	process.on('SIGHUP', () => stop(0));
	try {
		cluster = external ? undefined : await startCluster({ dataDir });
		const databaseUrl = external ?? (await ensureDatabase(cluster, 'cordwain'));
		lock.write(address, external ? null : databaseUrl);
		await prepare(databaseUrl, demo, lan);
		Object.assign(process.env, {
			DATABASE_URL: databaseUrl,
			CORDWAIN_DATA: dataDir,
			HOST: host,
			PORT: String(port),
			NODE_ENV: 'production',
		});
		// A broker for the demo’s nodes, unless one is named.
		if (demo && !process.env.MQTT_URL) {
			process.env.CORDWAIN_BROKER ??= String(port + BROKER_AWAY);
			process.env.MQTT_URL = `mqtt://127.0.0.1:${process.env.CORDWAIN_BROKER}`;
		}
		// Mail of the demo goes into a mailbox of this machine, to be looked at under /mailbox.
		if (demo) process.env.CORDWAIN_MAILBOX ??= String(port + MAILBOX_AWAY);
		const { certificate, startServer } = await import('./serve.mjs');
		try {
			const tls = await certificate(all, dataDir);
			server = await startServer({ host, port, tls, tlsPort });
		} catch (error) {
			throw new SetupError(error.message);
		}
		say(`Cordwain ${demo ? 'with the Saltmarsh Yard demo ' : ''}is ready: ${address}`);
		if (lan) await sayWhereOthersFindIt({ port, tlsPort, ownAuthority: !all.CORDWAIN_TLS_CERT });
		say('Ctrl-C stops it; what you entered is kept.');
		cluster?.exited.then(() => {
			if (stopping) return;
			say('The database stopped, and Cordwain ends with it. Entries wait in the browser; start it again to go on.');
			// Whoever watches over it sees that it ended, and starts it again.
			stop(1);
		});
	} catch (error) {
		await cluster?.stop();
		rmSync(lock.file, { force: true });
		throw error;
	}
}

/** The database of what runs here, or of a cluster that is started for the while. */
async function withDatabase(work) {
	ensureNpmPackages();
	const { dataDir, external } = await settings();
	ensureDebianPackages({ database: !external, browser: false });
	if (external) return work(external, dataDir);
	const file = join(dataDir, 'running.json');
	if (existsSync(file)) {
		const { pid, database } = JSON.parse(readFileSync(file, 'utf8'));
		if (alive(pid) && database) return work(database, dataDir);
	}
	const lock = claim(dataDir);
	lock.write('', null);
	const cluster = await startCluster({ dataDir });
	try {
		return await work(await ensureDatabase(cluster, 'cordwain'), dataDir);
	} finally {
		await cluster.stop();
		rmSync(lock.file, { force: true });
	}
}

/** Runs a script of this folder on that database. */
const runOnDatabase = (script, args) =>
	withDatabase(
		(url, dataDir) =>
			new Promise((done) => {
				const child = spawn(process.execPath, [join(root, 'ops/run.mjs'), `ops/${script}.ts`, ...args], {
					cwd: root,
					env: {
						...process.env,
						DATABASE_URL: url,
						CORDWAIN_DATA: dataDir,
						PG_DUMP: join(postgresBinaries() ?? '', 'pg_dump'),
					},
					stdio: 'inherit',
				});
				child.on('exit', (code) => done(code ?? 1));
			}),
	);

try {
	checkNode();
	const mode = process.argv[2];
	const flags = process.argv.slice(3);
	const serves = mode === 'demo' || mode === 'start';
	const unknown = serves && flags.find((f) => f !== '--lan');
	if (unknown) throw new SetupError(`${unknown} is not known here. There is --lan, which serves the local network.`);
	if (serves) await serve({ demo: mode === 'demo', lan: flags.includes('--lan') });
	else if (mode === 'test') process.exitCode = await runTests(process.argv.slice(3));
	else if (mode === 'backup' || mode === 'restore' || mode === 'people' || mode === 'sites')
		process.exitCode = await runOnDatabase(
			mode,
			flags.map((f) => (f.endsWith('.zip') ? resolve(f) : f)),
		);
	else throw new SetupError('Usage: node ops/main.mjs demo|start|test|backup|restore|people|sites');
} catch (error) {
	if (!(error instanceof SetupError)) throw error;
	process.stderr.write(`${error.message}\n`);
	process.exit(1);
}
