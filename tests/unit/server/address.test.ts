import { describe, expect, it } from 'vitest';
import { nameIn, pathOf } from '@/server/address';

const asked = (url: string, sent?: string) =>
	new Request(`http://127.0.0.1${url}`, sent === undefined ? {} : { headers: { 'x-cordwain-address': sent } });

describe('the address of a request', () => {
	it('is the one that was sent, where the server has kept it', () => {
		expect(pathOf(asked('/probes/-/ph?x=1', '/probes/bed%201%2F2/ph'))).toBe('/probes/bed%201%2F2/ph');
		expect(pathOf(asked('/probes/plum/ph?x=1'))).toBe('/probes/plum/ph');
	});
	it('gives its names as they were meant', () => {
		expect(nameIn(asked('/', '/probes/bed%201%2F2/ph'), 2)).toBe('bed 1/2');
		expect(nameIn(asked('/', '/probes/50%25/ph'), 2)).toBe('50%');
		expect(nameIn(asked('/', '/probes/%E0%A4%A/ph'), 2)).toBe('');
		expect(nameIn(asked('/', '/probes'), 2)).toBe('');
	});
});
