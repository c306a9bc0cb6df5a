import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

/**
 * Every example in the headers of the core, the contract and the words is run: `@example expression // value; words`. A
 * number may end in … where more digits follow. Examples see what their own file exports, and then everything else there.
 */
const src = join(import.meta.dirname, '../../../src');
const files = ['core', 'contract', 'words'].flatMap((folder) =>
	readdirSync(join(src, folder), { recursive: true, encoding: 'utf8' })
		.filter((f) => f.endsWith('.ts'))
		.map((f) => `${folder}/${f}`),
);
const modules = new Map<string, Record<string, unknown>>();
for (const f of files) modules.set(f, await import(/* @vite-ignore */ join(src, f)));
const everything = Object.assign({}, ...modules.values());

const evaluate = (file: string, text: string): unknown => {
	const scope = { ...everything, ...modules.get(file) };
	return new Function(...Object.keys(scope), `return (${text});`)(...Object.values(scope));
};

/** How far a value may lie from one that is written with so many digits. */
const tolerance = (written: string): number => {
	const m = /^-?\d+(?:\.(\d+))?(…)?$/.exec(written);
	const step = 10 ** -(m?.[1]?.length ?? 0);
	return m?.[2] ? step : step / 2;
};
function near(actual: unknown, expected: unknown): boolean {
	if (typeof expected === 'number' && typeof actual === 'number')
		return Math.abs(actual - expected) <= 5e-4 * Math.max(Math.abs(expected), 1e-6);
	if (expected === null || typeof expected !== 'object' || actual === null || typeof actual !== 'object')
		return Object.is(actual, expected);
	return Object.entries(expected).every(([k, v]) => near((actual as Record<string, unknown>)[k], v));
}

const examples = files.flatMap((file) =>
	[...readFileSync(join(src, file), 'utf8').matchAll(/@example (.+?)(?: \*\/)?$/gm)].map(
		([, text]) => [file, text!] as const,
	),
);

describe('examples in headers', () => {
	it.each(examples)('%s: %s', (file, text) => {
		const cut = text.lastIndexOf(' // ');
		expect(cut, 'an example says what comes of it').toBeGreaterThan(0);
		const written = text
			.slice(cut + 4)
			.split('; ')[0]!
			.trim();
		const actual = evaluate(file, text.slice(0, cut));
		if (/^-?[\d.]+…?$/.test(written)) {
			const expected = Number(written.replace('…', ''));
			expect(actual).toBeTypeOf('number');
			expect(Math.abs((actual as number) - expected)).toBeLessThanOrEqual(tolerance(written) * (1 + 1e-9));
		} else expect([actual, near(actual, evaluate(file, written))]).toEqual([actual, true]);
	});
	it('there are enough of them to look at', () => {
		expect(examples.length).toBeGreaterThan(60);
	});
});
