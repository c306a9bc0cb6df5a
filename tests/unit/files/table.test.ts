import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { RepeatedHours } from '@/core/quantity/time';
import { calibrationLine } from '@/files/calibrations-row';
import { checkConfig } from '@/files/check-config';
import { eventRow } from '@/files/events-row';
import { irrigationRow } from '@/files/irrigations-row';
import { readingRow } from '@/files/readings-row';
import { FORMATS, readHeader } from '@/files/table';
import { records } from '../../helpers/csv-text';

const root = join(import.meta.dirname, '../../..');

describe('docs/formats.md is true', () => {
	const examples = [
		...readFileSync(join(root, 'docs/formats.md'), 'utf8').matchAll(/```(csv|json) (\w+)\n([\s\S]*?)```/g),
	].map((m) => ({ kind: m[2]!, text: m[3]! }));
	it('has an example of each format', () =>
		expect(examples.map((e) => e.kind)).toEqual(expect.arrayContaining(['readings', 'events', 'config'])));
	it('every line of its readings and events is understood, under its own configuration', async () => {
		const config = checkConfig.parse(JSON.parse(examples.find((e) => e.kind === 'config')!.text));
		for (const { kind, text } of examples.filter((e) => e.kind !== 'config')) {
			const [head, ...rows] = await records(text);
			const header = readHeader(head!.cells, FORMATS.find((f) => f.name === kind)!);
			if (!header.ok) throw new Error(header.problem.message);
			for (const r of rows) {
				const result =
					kind === 'readings'
						? readingRow(r.cells, header.header, {
								zone: config.timezone!,
								altitudeM: 0,
								ppmScale: () => null,
								hours: new RepeatedHours(),
							})
						: kind === 'events'
							? eventRow(r.cells, header.header, 'UTC')
							: kind === 'irrigations'
								? irrigationRow(r.cells, header.header, 'UTC')
								: calibrationLine(r.cells, header.header, 'UTC', () => undefined);
				expect(result).toMatchObject({ ok: true });
			}
		}
	});
});
