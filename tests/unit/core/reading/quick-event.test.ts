import { describe, expect, it } from 'vitest';
import { parseQuickEvent } from '@/core/reading/quick-event';

/** How growers say what they did. Common practice, no source. */
describe('what was done to the water, as it is said', () => {
	it.each([
		['+65L', { kind: 'water_added', amount: 65, unit: 'L' }],
		['+ 65', { kind: 'water_added', amount: 65, unit: 'L' }],
		['water 6,5 l rain', { kind: 'water_added', amount: 6.5, unit: 'L', product: 'rain' }],
		['added 2 gal', { kind: 'water_added', amount: 2, unit: 'gal' }],
		['topped up 12L', { kind: 'water_added', amount: 12, unit: 'L' }],
		['acid 38 ml', { kind: 'acid_added', amount: 38, unit: 'mL' }],
		['acid 38ml citric', { kind: 'acid_added', amount: 38, unit: 'mL', product: 'citric' }],
		['pH down 3', { kind: 'acid_added', amount: 3, unit: 'mL' }],
		['ph up 2 ml', { kind: 'base_added', amount: 2, unit: 'mL' }],
		['base 5 drops', { kind: 'base_added', amount: 5, unit: 'drops' }],
		['feed 40 ml part A', { kind: 'nutrient_added', amount: 40, unit: 'mL', product: 'part A' }],
		['nutrient 250 g', { kind: 'nutrient_added', amount: 250, unit: 'g' }],
		['changed', { kind: 'solution_changed', amount: null }],
		['changed 600 L', { kind: 'solution_changed', amount: 600, unit: 'L' }],
		['drained 12', { kind: 'drained', amount: 12, unit: 'L' }],
		['irrigated 4 min', { kind: 'irrigated', amount: 4, unit: 'min' }],
		['cleaned', { kind: 'probe_cleaned', amount: null }],
		['lights off', { kind: 'lights_off' }],
		['note yellow tips', { kind: 'note', note: 'yellow tips', amount: null }],
		['note: 3 dead plants', { kind: 'note', note: '3 dead plants', amount: null }],
	])('“%s”', (text, meant) => expect(parseQuickEvent(text)).toMatchObject({ ...meant, unclear: null }));
	it.each(['ph 5.8', 'ph 5.8 ec 1.9', '5.8 1.92', 'ec 1.9', 'drain 6.4', 'acidity 5', 'waterfall', 'noted', 'alk 120'])(
		'“%s” is no event',
		(text) => expect(parseQuickEvent(text)).toBeNull(),
	);
	it('nothing after the plus is asked about', () => expect(parseQuickEvent('+')).toMatchObject({ unclear: '+' }));
});
