import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { doseWords } from '@/words/en/dosing';

/** What advice on a dose may say stands in the core as codes; each has words, and no words wait for a code that is never said. */
const root = join(import.meta.dirname, '../../../..');
const read = (f: string) => readFileSync(join(root, f), 'utf8');
const files = execFileSync('git', ['ls-files', 'src/core/mix/dose', 'src/service'], { cwd: root, encoding: 'utf8' })
	.trim()
	.split('\n');
const said = new Set(
	files.flatMap((f) =>
		[...read(f).matchAll(/\b(?:say|refuse|code)\b[^'\n;]{0,60}'([a-z]+(?:-[a-z]+)*)'/g)].map((m) => m[1]!),
	),
);
const worded = [...read('src/words/en/dosing.ts').matchAll(/^\t(?:'([a-z-]+)'|(\w+)): \(/gm)].map(
	(m) => (m[1] ?? m[2])!,
);
/** Enough for any of them to be said. */
const params = {
	ph: 6,
	from: 6.4,
	to: 5.9,
	minutes: 5,
	hours: 3,
	meqL: 0.2,
	expected: 5.9,
	got: 6.1,
	amount: 3,
	unit: 'mL',
	what: 'fed',
	ec: 60,
	most: 3,
	took: 2,
	fillings: 2,
	spread: 0.1,
	message: 'It jumps.',
	share: 0.5,
	times: 2,
	target: 5.8,
	least: 5,
	low: 5.5,
	high: 6.5,
	litres: 100,
	ml: 3,
	left: 0.4,
	by: 'plum',
};

describe('what advice on a dose says', () => {
	it('there are as many things as one would think', () => {
		expect(worded.length).toBeGreaterThan(25);
	});
	it.each(worded)('%s is a sentence', (code) => {
		const words = doseWords({ code, params });
		expect(words).not.toBe(code);
		expect(words).toMatch(/^[A-Z0-9p].*[.?]$/);
		expect(words).not.toMatch(/undefined|\[object/);
	});
	it('each is said somewhere', () => {
		const core = files.map(read).join('\n');
		for (const code of worded) expect([code, said.has(code) || core.includes(`'${code}'`)]).toEqual([code, true]);
	});
});
