// Types, lint, then every test against a throw-away cluster and the built application, and one line at the end.
import { spawn, spawnSync } from 'node:child_process';
import { closeSync, existsSync, mkdirSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuild, ensureDebianPackages, ensureNpmPackages, root, say } from './bootstrap.mjs';
import { removeCluster, startCluster } from './cluster.mjs';

const bin = (name) => join(root, 'node_modules/.bin', name);

const env = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' };

function gate(name, command, args) {
	const done = spawnSync(command, args, { cwd: root, encoding: 'utf8', env });
	if (done.status === 0) return 0;
	say(`${name} failed:\n${done.stdout}${done.stderr}`);
	return 1;
}

/** The same while other things are done; it writes to a file, since nobody listens to it meanwhile. */
function gateMeanwhile(name, command, args) {
	const path = join(mkdtempSync(join(tmpdir(), 'cordwain-gate-')), 'said');
	const file = openSync(path, 'w');
	const child = spawn(command, args, { cwd: root, stdio: ['ignore', file, file], env });
	const ended = new Promise((done) => {
		child.on('error', () => done(1));
		child.on('exit', (code) => done(code ?? 1));
	});
	return async () => {
		const status = await ended;
		closeSync(file);
		if (status !== 0) say(`${name} failed:\n${readFileSync(path, 'utf8')}`);
		rmSync(join(path, '..'), { recursive: true, force: true });
		return status === 0 ? 0 : 1;
	};
}

export async function runTests(extra) {
	ensureDebianPackages({ database: true, browser: true });
	ensureNpmPackages();
	// One core for the types, which take longest; the other for the rest.
	const types = gateMeanwhile('Types', bin('astro'), ['check', '--minimumFailingSeverity', 'error']);
	let failed = gate('Lint', bin('biome'), ['check', '--error-on-warnings', '.']);
	failed += gate('What nobody uses', bin('knip'), ['--no-progress']);
	await ensureBuild();

	const dataDir = mkdtempSync(join(tmpdir(), 'cordwain-test-'));
	spawnSync('chmod', ['711', dataDir]);
	const out = join(root, 'tests/.out');
	mkdirSync(out, { recursive: true });
	const report = join(out, 'vitest.json');
	rmSync(report, { force: true });
	let cluster;
	const clean = async () => {
		await cluster?.stop();
		removeCluster(dataDir);
	};
	process.on('SIGINT', () => clean().then(() => process.exit(130)));
	process.on('SIGTERM', () => clean().then(() => process.exit(143)));
	let passed = 0;
	try {
		cluster = await startCluster({ dataDir, durable: false });
		const status = await new Promise((done) => {
			spawn(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...extra], {
				cwd: root,
				stdio: ['ignore', 'inherit', 'inherit'],
				env: { ...process.env, CORDWAIN_TEST_CLUSTER: cluster.url('postgres') },
			}).on('exit', (code) => done(code ?? 1));
		});
		if (existsSync(report)) {
			const result = JSON.parse(readFileSync(report, 'utf8'));
			passed += result.numPassedTests;
			failed += result.numFailedTests;
			// A file that could not even be collected has no tests of its own to count.
			failed += result.testResults.filter((f) => f.status === 'failed' && f.assertionResults.length === 0).length;
		}
		if (status !== 0 && failed === 0) failed = 1;
	} finally {
		await clean();
	}
	// They take longest; the first tests are run beside them.
	failed += await types();
	say(`${passed} passed, ${failed} failed`);
	return failed === 0 && passed > 0 ? 0 : 1;
}
