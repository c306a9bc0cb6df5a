import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import type { SiteView } from '@/core/reading/site-view';
import { unitsToFix } from '@/views/entry/fix-values';
import { StationOptions } from '@/views/entry/StationOptions';
import { draw } from '../../../helpers/drawn';

const site = {
	stations: [{ info: { code: 'pond' }, name: 'Pond' }],
	retired: [{ code: 'tub', name: 'Old tub', station: true }],
} as unknown as SiteView;

describe('what can be chosen when something is mended', () => {
	it('holds what stands there already: a form that is only looked at changes nothing', () => {
		const options = (also: string) => draw(createElement(StationOptions, { site, also })).match(/value="[^"]*"/g);
		expect(options('pond')).toEqual(['value="pond"']);
		expect(options('tub')).toEqual(['value="pond"', 'value="tub"']);
		expect(draw(createElement(StationOptions, { site, also: 'tub' }))).toContain('Old tub');
		expect(unitsToFix('no3', 'ppm')[0]).toBe('ppm');
		expect(unitsToFix('ph', 'pH')).toEqual(['pH']);
	});
});
