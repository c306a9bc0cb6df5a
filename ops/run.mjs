// node ops/run.mjs SCRIPT.ts [arguments]: puts a script and what it imports of the project into one and runs it.
// It is put together anew each time, which takes a tenth of a second, and then is as fast as the server's own code.
import { mkdtempSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { argv, setSourceMapsEnabled } from 'node:process';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');

/** A file knows where it lies and finds its packages, though it is run from elsewhere. */
const ownPlace = {
	name: 'own-place',
	setup({ onLoad, onResolve }) {
		onResolve({ filter: /^(@[^/]|[^@./])/ }, ({ path, kind }) =>
			kind === 'entry-point' ? undefined : { path: import.meta.resolve(path), external: true },
		);
		onLoad({ filter: /\.m?[jt]s$/ }, async ({ path }) => ({
			contents: (await readFile(path, 'utf8')).replaceAll('import.meta.dirname', JSON.stringify(dirname(path))),
			loader: /\.m?ts$/.test(path) ? 'ts' : 'js',
		}));
	},
};

const [script, ...rest] = argv.slice(2);
const directory = mkdtempSync(join(tmpdir(), 'cordwain-run-'));
const { outputFiles } = await build({
	absWorkingDir: root,
	entryPoints: [resolve(root, script)],
	bundle: true,
	write: false,
	platform: 'node',
	format: 'esm',
	target: 'node20',
	sourcemap: 'inline',
	sourcesContent: false,
	plugins: [ownPlace],
	// Once it is loaded its file is not needed, however the script ends.
	banner: { js: `import { rmSync as away } from 'node:fs';\naway(${JSON.stringify(directory)}, { recursive: true });` },
});
argv.splice(1, argv.length - 1, resolve(root, script), ...rest);
setSourceMapsEnabled(true);
const file = join(directory, 'script.mjs');
writeFileSync(file, outputFiles[0].contents);
await import(pathToFileURL(file).href);
