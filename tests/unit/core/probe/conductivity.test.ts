import { describe, expect, it } from 'vitest';
import { compensate, naturalWaterFactor } from '@/core/probe/conductivity';
import scipy from '../../../reference/scipy.json';

describe('temperature compensation', () => {
	// The 1413 µS/cm standard conducts 1278 at 20 °C (ISO 7888 table, from memory).
	it('brings the 20 °C standard to 25 °C', () => {
		const r = compensate({ ecUsCm: 1278, tempC: 20 });
		expect(r.ok && r.value).toBeCloseTo(1412.9, 0);
	});
	it('is the identity at 25 °C and linear in the reading', () => {
		expect(compensate({ ecUsCm: 1000, tempC: 25, model: 'natural-water' })).toEqual({ ok: true, value: 1000 });
		expect(compensate({ ecUsCm: 1000, tempC: 15, alphaPctPerC: 2 })).toEqual({ ok: true, value: 1250 });
	});
	it('interpolates f25 as scipy’s natural cubic spline of its logarithm does', () => {
		for (const { temp_c, f } of scipy.f25) expect(naturalWaterFactor(temp_c)).toBeCloseTo(f, 10);
	});
	it('refuses outside', () => {
		expect(compensate({ ecUsCm: 1, tempC: 36, model: 'natural-water' })).toEqual({
			ok: false,
			problem: 'temperature-outside-model',
		});
		expect(compensate({ ecUsCm: 1, tempC: 61 })).toEqual({ ok: false, problem: 'temperature-outside-water' });
		expect(compensate({ ecUsCm: -1, tempC: 20 })).toEqual({ ok: false, problem: 'negative' });
	});
});
