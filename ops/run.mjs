// node ops/run.mjs SCRIPT.ts [arguments]: puts a script and what it imports of the project into one and runs it.
// It is put together anew each time, which takes a tenth of a second, and then is as fast as the server's own code.
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { argv, setSourceMapsEnabled } from 'node:process';
import { pathToFileURL } from 'node:url';
import { bundle } from './bundle.mjs';

const root = join(import.meta.dirname, '..');
const [script, ...rest] = argv.slice(2);
const directory = mkdtempSync(join(tmpdir(), 'cordwain-run-'));
// Once it is loaded its file is not needed, however the script ends.
const banner = `import { rmSync as away } from 'node:fs';\naway(${JSON.stringify(directory)}, { recursive: true });`;
const text = await bundle(script, { banner });
argv.splice(1, argv.length - 1, resolve(root, script), ...rest);
setSourceMapsEnabled(true);
const file = join(directory, 'script.mjs');
writeFileSync(file, text);
await import(pathToFileURL(file).href);
