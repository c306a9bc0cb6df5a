import { describe, expect, it } from 'vitest';
import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { darkness } from '@/views/trends/lines/darkness';

const at = (day: number, hour: number): number => Date.UTC(2026, 2, day, hour);
const site = (place: SiteView['settings']['place']) => ({ settings: { place } }) as SiteView;
const lamps = (kind: string, time: number) => ({ kind, time: new Date(time).toISOString() }) as StoredEvent;
const week = { from: at(1, 0), to: at(8, 0) };

describe('the hours without light of a chart', () => {
	it('are those of the lamps where they were noted, else of the sun, and say which', () => {
		const place = { latitude: 53, longitude: 5 };
		expect(darkness([], site(place), week)).toMatchObject({ words: 'grey: the sun is down' });
		expect(darkness([], site(place), week).stretches).toHaveLength(8);
		const noted = [lamps('lights_off', at(2, 22)), lamps('lights_on', at(3, 6)), lamps('note', at(4, 6))];
		expect(darkness(noted, site(place), week)).toEqual({
			stretches: [[at(2, 22), at(3, 6)]],
			words: 'grey: lamps off',
		});
	});
	it('are none where nothing is known, and none in a season, where they would be lines', () => {
		expect(darkness([], site(null), week)).toEqual({ stretches: [], words: '' });
		const season = { from: at(1, 0), to: at(1, 0) + 90 * 86_400_000 };
		expect(darkness([], site({ latitude: 53, longitude: 5 }), season)).toEqual({ stretches: [], words: '' });
	});
});
