import { describe, expect, it } from 'vitest';
import { fromTable, likelyStandard, nominalValue, STANDARDS, standardNamed } from '@/core/probe/standards';
import { kclGrams } from '@/core/probe/storage-solution';

const standard = (name: string) => standardNamed(name)!;

describe('standards', () => {
	// IUPAC Recommendations 2002 / NIST primary buffers, from memory.
	it.each([
		[
			'phthalate 4.005',
			[
				[0, 4.0],
				[25, 4.005],
				[37.5, 4.0225],
				[50, 4.05],
			],
		],
		[
			'phosphate 6.865',
			[
				[0, 6.984],
				[20, 6.881],
				[25, 6.865],
				[40, 6.838],
			],
		],
		[
			'borax 9.180',
			[
				[0, 9.464],
				[25, 9.18],
				[50, 9.011],
			],
		],
		// Typical bottle tables, from memory.
		[
			'pH 4.01',
			[
				[5, 4.0],
				[20, 4.0],
				[22.5, 4.005],
				[25, 4.01],
				[40, 4.03],
			],
		],
		[
			'pH 7.00',
			[
				[5, 7.09],
				[20, 7.02],
				[25, 7.0],
				[40, 6.97],
			],
		],
		[
			'pH 7.01',
			[
				[20, 7.03],
				[25, 7.01],
			],
		],
		[
			'pH 10.01',
			[
				[5, 10.25],
				[25, 10.01],
				[40, 9.89],
			],
		],
		// 0.01 mol/L KCl, ISO 7888 by degree, from memory.
		[
			'KCl 1413',
			[
				[15, 1147],
				[20, 1278],
				[20.5, 1291.5],
				[25, 1413],
				[30, 1552],
			],
		],
	] as const)('%s by temperature', (name, values) => {
		for (const [t, v] of values)
			expect(fromTable(standard(name).table, t)).toEqual({ ok: true, value: expect.closeTo(v, 9) });
	});
	it('refuses outside every table', () => {
		for (const s of STANDARDS) {
			const low = s.table[0]![0];
			const high = s.table.at(-1)![0];
			expect(fromTable(s.table, low - 0.1).ok).toBe(false);
			expect(fromTable(s.table, high + 0.1).ok).toBe(false);
			expect(fromTable(s.table, high).ok).toBe(true);
		}
	});
	it('a compensating meter (2 %/°C) is right in 1413 at 20 °C when it shows 1420', () => {
		const at = nominalValue(standard('KCl 1413'), 20, { compensates: true, alphaPctPerC: 2 });
		expect(at.ok && Math.round(at.value)).toBe(1420);
		const exact = nominalValue(standard('KCl 1413'), 20, { compensates: true, alphaPctPerC: 1.91 });
		expect(exact.ok && Math.round(exact.value)).toBe(1413);
		expect(nominalValue(standard('KCl 1413'), 20, { compensates: false })).toEqual({ ok: true, value: 1278 });
	});
	it('recognises the wrong bottle', () => {
		expect(likelyStandard(standard('pH 7.00'), 4.1, 25)?.name).toMatch(/4\.0/);
		expect(likelyStandard(standard('pH 4.01'), 7, 25)?.name).toMatch(/7\.0|6\.8/);
		expect(likelyStandard(standard('pH 7.00'), 7.6, 25)).toBeNull();
	});
	it('storage solution: 3 mol/L is 22.37 g in 100 mL, 223.65 g in a litre (KCl 74.5513 g/mol)', () => {
		expect(kclGrams(3, 100)).toBeCloseTo(22.37, 2);
		expect(kclGrams(3, 1000)).toBeCloseTo(223.65, 2);
	});
});
