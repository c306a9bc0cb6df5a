// A script and what it imports of the project, put into one file of plain JavaScript.
import { readFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');

/** A file knows where it lies and finds its packages, though it is run from elsewhere. */
const ownPlace = (packagesHere) => ({
	name: 'own-place',
	setup({ onLoad, onResolve }) {
		onResolve({ filter: /^(@[^/]|[^@./])/ }, ({ path, kind }) =>
			kind === 'entry-point' ? undefined : { path: packagesHere ? import.meta.resolve(path) : path, external: true },
		);
		onLoad({ filter: /\.m?[jt]s$/ }, async ({ path }) => ({
			contents: (await readFile(path, 'utf8')).replaceAll('import.meta.dirname', JSON.stringify(dirname(path))),
			loader: /\.m?ts$/.test(path) ? 'ts' : 'js',
		}));
	},
});

/**
 * @param script below the project's folder
 * @param banner goes before everything
 * @param packagesHere whether the file will lie where its packages are not found by their names
 * @returns the text of the file
 */
export async function bundle(script, { banner = '', packagesHere = true } = {}) {
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
		plugins: [ownPlace(packagesHere)],
		banner: { js: banner },
	});
	return outputFiles[0].contents;
}
