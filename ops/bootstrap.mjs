// What a fresh machine needs before anything of ours can run: Debian packages, npm packages, a build.
// Only Node's own modules here, since node_modules may not exist yet. Silent when nothing is to be done.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { accessSync, constants, cpSync, existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';

export class SetupError extends Error {}

export const root = join(import.meta.dirname, '..');
export const say = (text) => process.stdout.write(`${text}\n`);

export function checkNode() {
	const [major, minor] = process.versions.node.split('.').map(Number);
	if (major < 20 || major > 24 || (major === 20 && minor < 20))
		throw new SetupError(
			`Cordwain runs on Node 20.20 up to 24; this is ${process.versions.node}. Install one of those and try again.`,
		);
}

/** The directory that holds initdb and postgres, newest version first; undefined when there is none. */
export function postgresBinaries() {
	const base = '/usr/lib/postgresql';
	const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
	const places = [...versions.map((v) => join(base, v, 'bin')), ...(process.env.PATH ?? '').split(delimiter)];
	return places.find((p) => p && existsSync(join(p, 'initdb')) && existsSync(join(p, 'postgres')));
}

const executable = (path) => {
	try {
		accessSync(path, constants.X_OK);
		return true;
	} catch {
		return false;
	}
};

export function ensureDebianPackages({ database, browser }) {
	const missing = [];
	if (database && !postgresBinaries()) missing.push('postgresql');
	if (browser && !executable('/usr/bin/chromium-headless-shell')) missing.push('chromium-headless-shell');
	if (missing.length === 0) return;
	const asRoot = process.getuid?.() === 0;
	if (!asRoot && spawnSync('sudo', ['-n', 'true']).status !== 0 && !process.stdin.isTTY)
		throw new SetupError(
			`These Debian packages are missing: ${missing.join(', ')}. Ask an administrator to run\n  apt-get install ${missing.join(' ')}\nand try again.`,
		);
	say(`Installing ${missing.join(', ')} with apt-get.`);
	const [program, ...lead] = asRoot ? ['apt-get'] : ['sudo', 'apt-get'];
	const run = (args) =>
		spawnSync(program, [...lead, ...args], {
			stdio: ['inherit', 'ignore', 'pipe'],
			encoding: 'utf8',
			env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
		});
	run(['update']);
	const done = run(['install', '-y', '--no-install-recommends', ...missing]);
	if (done.status !== 0)
		throw new SetupError(
			`apt-get could not install ${missing.join(', ')}:\n${done.stderr ?? done.error?.message ?? ''}\nInstall them by hand and try again.`,
		);
}

const digest = (text) => createHash('sha256').update(text).digest('hex');

export function ensureNpmPackages() {
	const stamp = join(root, 'node_modules', '.installed-from');
	const wanted = digest(readFileSync(join(root, 'package-lock.json')));
	if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
	say('Installing npm packages.');
	const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
		cwd: root,
		encoding: 'utf8',
	});
	if (done.status !== 0)
		throw new SetupError(`npm ci failed:\n${(done.stderr ?? done.error?.message ?? '').slice(0, 2000)}`);
	writeFileSync(stamp, wanted);
}

function* filesBelow(path) {
	if (statSync(path).isFile()) yield path;
	else for (const name of readdirSync(path).sort()) yield* filesBelow(join(path, name));
}

/** One hash over everything the build reads, so that a build is redone exactly when something changed. */
function sourceDigest() {
	const hash = createHash('sha256');
	for (const part of [
		'src',
		'ops/settings.mjs',
		'ops/bundle.mjs',
		'public',
		'astro.config.mjs',
		'package-lock.json',
		'tsconfig.json',
	]) {
		const path = join(root, part);
		if (existsSync(path)) for (const file of filesBelow(path)) hash.update(file).update(readFileSync(file));
	}
	return hash.digest('hex');
}

/** The worker that keeps pages on a device knows the files of its build, and changes with them. */
function writeWorker(directory) {
	const files = [...filesBelow(directory)]
		.map((f) => `/${f.slice(directory.length + 1).replaceAll('\\', '/')}`)
		.filter((f) => /\.(js|css|woff2|svg|webmanifest)$/.test(f))
		.sort();
	const text = readFileSync(join(root, 'src/worker/worker.js'), 'utf8')
		.replace('__VERSION__', digest(files.join()).slice(0, 16))
		.replace('__FILES__', JSON.stringify(files));
	writeFileSync(join(directory, 'worker.js'), text);
}

/** Files that browsers load are compressed once, as small as they get. */
function compressFiles(directory) {
	for (const entry of readdirSync(directory, { withFileTypes: true, recursive: true })) {
		if (!entry.isFile() || !/\.(js|css|svg|html|json|txt)$/.test(entry.name)) continue;
		const file = join(entry.parentPath ?? entry.path, entry.name);
		const text = readFileSync(file);
		writeFileSync(`${file}.br`, brotliCompressSync(text));
		writeFileSync(`${file}.gz`, gzipSync(text, { level: 9 }));
	}
}

export async function ensureBuild() {
	const stamp = join(root, 'dist', '.built-from');
	const wanted = sourceDigest();
	if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
	say('Building the application.');
	const done = spawnSync(process.execPath, [join(root, 'node_modules/astro/astro.js'), 'build', '--silent'], {
		cwd: root,
		encoding: 'utf8',
		env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
	});
	if (done.status !== 0) throw new SetupError(`The build failed:\n${done.stdout}${done.stderr}`);
	writeWorker(join(root, 'dist/client'));
	compressFiles(join(root, 'dist/client'));
	// A backup is tried out in a database that the server makes.
	cpSync(join(root, 'src/store/migrations'), join(root, 'dist/server/migrations'), { recursive: true });
	// What runs beside the server in a thread of its own. Only now are the packages there that put it together.
	const { bundle } = await import('./bundle.mjs');
	writeFileSync(
		join(root, 'dist/server/judge-streams.mjs'),
		await bundle('src/server/judge-streams.ts', { packagesHere: false }),
	);
	writeFileSync(stamp, wanted);
}
