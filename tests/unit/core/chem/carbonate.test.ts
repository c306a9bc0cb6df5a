import { describe, expect, it } from 'vitest';
import { carbonateConstants } from '@/core/chem/carbonate';

const pk = (k: number) => -Math.log10(k);

describe('carbonate constants of Plummer and Busenberg (1982)', () => {
	it('pK1 6.352, pK2 10.329, pKw 14.00, pKH 1.468 at 25 °C', () => {
		const c = carbonateConstants(25);
		expect([pk(c.k1), pk(c.k2), pk(c.kw), pk(c.kh)].map((v) => Number(v.toFixed(3)))).toEqual([
			6.352, 10.329, 14, 1.468,
		]);
	});
});
