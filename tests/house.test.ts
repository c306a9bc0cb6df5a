import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { settings } from '../ops/settings.mjs';

/** The rules of the house, each as a test that fails when it is broken. */
const root = join(import.meta.dirname, '..');
const files = execFileSync('git', ['ls-files', 'src', 'tests', 'ops'], { cwd: root, encoding: 'utf8' })
	.trim()
	.split('\n')
	.filter((f) => /\.(ts|tsx|mts|mjs|astro)$/.test(f));
const text = (file: string): string => readFileSync(join(root, file), 'utf8');
const holding = (pattern: RegExp, among: (f: string) => boolean): string[] =>
	files.filter((f) => among(f) && pattern.test(text(f)));

describe('the house', () => {
	it('imports go one way: pages → server → service → store, and core uses nothing of ours', () => {
		const out = execFileSync(
			join(root, 'node_modules/.bin/depcruise'),
			['src', 'ops', '--config', '.dependency-cruiser.cjs', '--output-type', 'json'],
			{ cwd: root, encoding: 'utf8', maxBuffer: 1 << 26 },
		);
		const { summary } = JSON.parse(out);
		expect(
			summary.violations.map(
				(v: { rule: { name: string }; from: string; to: string }) => `${v.rule.name}: ${v.from} → ${v.to}`,
			),
		).toEqual([]);
		expect(summary.totalCruised).toBeGreaterThan(300);
	});
	it('SQL lives in src/store alone', () => {
		expect(
			holding(
				/\b(SELECT [\w*(]|INSERT INTO|UPDATE \w+ SET|DELETE FROM)/,
				(f) => f.startsWith('src/') && !f.startsWith('src/store/'),
			),
		).toEqual([]);
	});
	it('core and words have no clock and no chance', () => {
		expect(
			holding(
				/Date\.now\(|Math\.random\(|new Date\(\)|performance\.now/,
				(f) => f.startsWith('src/core/') || f.startsWith('src/words/'),
			),
		).toEqual([]);
	});
	it('nobody but trust and the checks asks what a flag or a cause permits', () => {
		const asks = /(?:flag|\bf) *(?:>=|<|>|===|!==) *[1-49]\b|\.cause *[!=]== *'(?!unit-slip|scale-mismatch|swapped)/;
		// These put a slip right, tell it, or decide the demo’s own old doubts; none of them permits anything.
		const told = ['src/demo/load.ts', 'src/files/check-stream.ts', 'src/service/judging.ts'];
		expect(
			holding(
				asks,
				(f) =>
					f.startsWith('src/') &&
					!f.startsWith('src/core/trust/') &&
					!f.startsWith('src/core/judge/') &&
					!told.includes(f),
			),
		).toEqual([]);
	});
	it('views speak to the server by the contract alone', () => {
		const views = (f: string) => f.startsWith('src/views/') && f !== 'src/views/data/client.ts';
		expect(holding(/\bfetch\(|\/api\/v1\/|XMLHttpRequest/, views)).toEqual([]);
		// What goes over the wire is renamed by its codec, never by hand.
		expect(holding(/ToWire|FromWire/, (f) => f.startsWith('src/'))).toEqual([]);
		expect(holding(/\bz\./, (f) => f.startsWith('src/server/routes/'))).toEqual([]);
	});
	it('the environment is read in one place, and nothing is written to the console', () => {
		expect(holding(/process\.env|import\.meta\.env/, (f) => f.startsWith('src/'))).toEqual([]);
		expect(holding(/console\.\w+\(/, (f) => f.startsWith('src/'))).toEqual([]);
	});
	it('the core says codes, not sentences', () => {
		expect(holding(/['`][^'`\n]* [^'`\n]* [^'`\n]*[a-z]\.['`]/, (f) => f.startsWith('src/core/'))).toEqual([]);
	});
	it('a unit test stands where what it tests stands, by its name', () => {
		const names = new Set(
			files
				.filter((f) => f.startsWith('src/'))
				.flatMap((f) => [f.replace(/\.\w+$/, ''), f.slice(0, f.lastIndexOf('/'))]),
		);
		expect(
			files
				.filter((f) => f.startsWith('tests/unit/') && f !== 'tests/unit/core/examples.test.ts')
				.filter((f) => !names.has(f.replace('tests/unit/', 'src/').replace(/\.test\.tsx?$/, ''))),
		).toEqual([]);
	});
	it('no file is longer than three hundred lines', () => {
		const long = files.flatMap((f) => {
			const n = f.startsWith('src/') ? text(f).split('\n').length - 1 : 0;
			return n > 300 ? [`${f}: ${n}`] : [];
		});
		expect(long).toEqual([]);
	});
	it('every function and class that the core hands out has a header; its examples are run by their own test', () => {
		const bare = files
			.filter((f) => f.startsWith('src/core/'))
			.flatMap((f) => {
				const lines = text(f).split('\n');
				return lines.flatMap((l, i) =>
					/^export (?:async )?(?:function|class)|^export const \w+ = (?:<[^>]*>)?\(?.*=>/.test(l) &&
					!lines[i - 1]?.trim().endsWith('*/')
						? [`${f}: ${l.slice(0, 60)}`]
						: [],
				);
			});
		expect(bare).toEqual([]);
	});
	it('versions are pinned, and licences permit', () => {
		const manifest = JSON.parse(text('package.json'));
		const wanted = { ...manifest.dependencies, ...manifest.devDependencies } as Record<string, string>;
		for (const [name, version] of Object.entries(wanted))
			expect([name, /^\d+\.\d+\.\d+$/.test(version)]).toEqual([name, true]);
		for (const name of Object.keys(manifest.dependencies)) {
			// Where a package does not name its licence, its text does.
			const { license = licenceOf(text(`node_modules/${name}/LICENSE`)) } = JSON.parse(
				text(`node_modules/${name}/package.json`),
			);
			expect([name, /^(MIT|MIT-0|ISC|Apache-2\.0|BSD-[23]-Clause|OFL-1\.1|BlueOak-1\.0\.0)$/.test(license)]).toEqual([
				name,
				true,
			]);
		}
	});
});

/** The licence of two clauses, where a text is that. */
const licenceOf = (words: string): string =>
	/Redistribution and use in source and binary forms, with or without/.test(words) &&
	/Redistributions of source code must retain/.test(words) &&
	/Redistributions in binary form must reproduce/.test(words) &&
	!/Neither the name|advertising/.test(words)
		? 'BSD-2-Clause'
		: 'unknown';

describe('what the environment may say', () => {
	it('is as usual where nothing is said, and an empty word is nothing', () => {
		expect(settings({ PORT: '' })).toMatchObject({
			HOST: '127.0.0.1',
			PORT: 4400,
			CORDWAIN_DATA: '.cordwain',
			CORDWAIN_LOG: 'warn',
		});
		expect(settings({ PORT: '4401', DATABASE_URL: 'postgres://u:p@h/d' })).toMatchObject({ PORT: 4401 });
	});
	it.each([
		[{ PORT: '70000' }, /PORT must be a whole number/],
		[{ PORT: 'x' }, /PORT must be a whole number/],
		[{ HOST: '0.0.0.0' }, /serves this machine only/],
		[{ DATABASE_URL: 'mysql://h/d' }, /must begin with postgres:\/\//],
		[{ CORDWAIN_LOG: 'loud' }, /use silent, error, warn, info or debug/],
	])('%o is refused with what to do', (env, words) => {
		expect(() => settings(env as unknown as Record<string, string>)).toThrow(words);
	});
});
