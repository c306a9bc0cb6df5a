import { describe, expect, it } from 'vitest';
import { Engine } from '@/core/judge/engine';
import type { Verdict } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { dipsOf, entriesOf, fixesOf, opinionsOf, otherFields, worthOf } from '@/views/bench/dips';
import { savedWords } from '@/views/bench/saved-words';

/** What Bench makes of what is typed, without a page. */
const meter = (code: string, more: object = {}) =>
	({
		info: { code, quantities: {}, ppmScale: null, compensates: true, alphaPctPerC: 2, continuous: false, ...more },
		name: code,
		kind: 'combined',
		live: 'none',
		printed: null,
		probes: {},
	}) as SiteView['instruments'][number];
const site = {
	units: { ec: 'mS/cm', temp: 'C', volume: 'L' },
	stations: [],
	instruments: [meter('plum'), meter('minnow', { ppmScale: 700 })],
} as unknown as SiteView;
const engine = new Engine({ stations: new Map(), instruments: new Map() } as never, () => 0);
const draft = (texts: object, others: { instrument: string; texts: object }[] = []) => ({
	station: 'pond',
	instrument: 'plum',
	texts,
	others,
	note: '',
	when: '',
	more: [],
	by: {},
});
const entries = (...given: Parameters<typeof draft>) => entriesOf(dipsOf(draft(...given), site, engine, 0));
const verdict = (cause: string, suggested: number | null): Verdict =>
	({ flag: 3, u: 0.05, deciding: { cause, suggested } }) as unknown as Verdict;

describe('the dips of a sample', () => {
	it('each is understood by its own meter: ppm needs a scale', () => {
		const [first, second] = dipsOf(
			draft({ ec: '900 ppm' }, [{ instrument: 'minnow', texts: { ec: '900 ppm' } }]),
			site,
			engine,
			0,
		);
		expect(first!.values.ec).toMatchObject({ state: 'problem' });
		expect(second!.values.ec).toMatchObject({ state: 'value', quantity: 'tds', unit: 'ppm700' });
		expect([first!.prefix, second!.prefix]).toEqual(['', '2']);
	});
	it('of an earlier time are understood on the scale that the meter was on then', () => {
		const was = { quantities: {}, ppmScale: 500, compensates: true, alphaPctPerC: 2, continuous: false, until: 1000 };
		const switched = { ...site, instruments: [meter('plum', { ppmScale: 700, before: [was] })] };
		const unitAt = (at: number) => dipsOf(draft({ ec: '900 ppm' }), switched, engine, at)[0]!.values.ec;
		expect([unitAt(999), unitAt(1000)]).toMatchObject([{ unit: 'ppm500' }, { unit: 'ppm700' }]);
	});
	it('only fields that hold a value are entered, dip by dip', () => {
		expect(
			entries({ ph: '5.8', ec: '', temp: 'x' }, [{ instrument: 'minnow', texts: { ph: '6' } }]).map((e) => [
				e.row,
				e.q,
				e.v.digits,
			]),
		).toEqual([
			[0, 'ph', '5.8'],
			[1, 'ph', '6'],
		]);
	});
});

describe('a suggestion that is taken', () => {
	const metric = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;
	it('puts the decimal mark right in the unit of the field', () => {
		expect(fixesOf(entries({ ph: '59.0' }), [verdict('decimal-slip', 5.9)], 0, metric)).toEqual([
			{ row: 0, q: 'ph', text: '5.9' },
		]);
	});
	it('brings another unit to the site’s own, and says which', () => {
		expect(fixesOf(entries({ ec: '1850 mS' }), [verdict('unit-slip', 1850)], 0, metric)).toEqual([
			{ row: 0, q: 'ec', text: '1.85mS' },
		]);
		expect(
			fixesOf(entries({ ec: '1850 mS' }), [verdict('unit-slip', 1850)], 0, { ec: 'uS/cm', temp: 'C', volume: 'L' }),
		).toEqual([{ row: 0, q: 'ec', text: '1850uS' }]);
	});
	it('exchanges both of what was swapped, and leaves another dip alone', () => {
		const all = entries({ ph: '1.9', ec: '5.8' }, [{ instrument: 'minnow', texts: { ph: '5.8' } }]);
		const verdicts = [verdict('swapped', 5.8), verdict('swapped', 1900), verdict('swapped', 3)];
		expect(fixesOf(all, verdicts, 0, metric)).toEqual([
			{ row: 0, q: 'ph', text: '5.8' },
			{ row: 0, q: 'ec', text: '1.9' },
		]);
	});
});

describe('two opinions of one water', () => {
	const plum = {
		...meter('plum'),
		probes: { ph: { lastAt: 0, error: 0.3, u: 0.12, told: true, dueAt: null, state: null } },
	} as SiteView['instruments'][number];
	it('each is worth what it showed without the error that is known of its probe, by √(u² + u_error²) (JCGM 100, 5.1.2)', () => {
		expect(worthOf('ph', plum, 0.05, 6)).toEqual({ value: 5.7, u: expect.closeTo(0.13, 10) });
		expect(worthOf('temp', plum, 0.3, 20)).toEqual({ value: 20, u: 0.3 });
		expect(worthOf('ph', undefined, 0.05, 6)).toEqual({ value: 6, u: 0.05 });
	});
	it('what is only guessed is not taken off, but makes it less sure', () => {
		const guessed = { ...plum, probes: { ph: { ...plum.probes.ph!, told: false } } };
		expect(worthOf('ph', guessed, 0.05, 6)).toEqual({ value: 6, u: expect.closeTo(0.13, 10) });
		const cell = { ...plum, probes: { ec: { ...plum.probes.ph!, error: -5, u: 2 } } };
		expect(worthOf('ec', cell, 0, 2000)).toEqual({ value: 2100, u: 40 });
	});
	it('are asked for where more than one dip measured the same', () => {
		const all = entries({ ph: '5.8', ec: '1.9' }, [{ instrument: 'minnow', texts: { ph: '6.1' } }]);
		const readings = all.map((e) => ({ value: Number(e.v.digits) })) as never;
		const verdicts = all.map(() => verdict('', null));
		const opinions = opinionsOf(all, readings, verdicts, (code) => (code === 'plum' ? plum : undefined));
		expect(opinions.map((o) => [o.q, o.witnesses.map((w) => [w.name, w.value])])).toEqual([
			[
				'ph',
				[
					['plum', 5.5],
					['the unnamed meter', 6.1],
				],
			],
		]);
	});
});

describe('what is said once a sample is saved', () => {
	const stored = (more: object) =>
		({
			kind: 'stored',
			at: 0,
			stored: { samples: [{ sample_id: 1, readings: [], round_finished_at: null, retests: [], ...more }] },
		}) as never;
	it('that it was, and what to do with the probe, unless a person knows', () => {
		expect(savedWords(stored({}), 'Pond', 'UTC', null)).toEqual(['Pond saved.']);
		expect(savedWords(stored({}), 'Pond', 'UTC', 'ph')).toHaveLength(2);
	});
	it('that its round was done already, in the time of the site, and that it answers a retest', () => {
		const words = savedWords(
			stored({
				round_finished_at: '2026-07-14T06:30:00Z',
				retests: [
					{ reading_id: 3, answered_before_at: null },
					{ reading_id: 4, answered_before_at: '2026-07-14T07:00:00Z' },
				],
			}),
			'Pond',
			'Europe/Amsterdam',
			null,
		);
		expect(words[1]).toMatch(/finished at 14 Jul,? 08:30; this is kept with it as late/);
		expect(words[2]).toMatch(/^That was the retest/);
		expect(words[3]).toMatch(/had been done at 14 Jul,? 09:00; both are kept/);
	});
	it('that it waits on this device', () => {
		expect(savedWords({ kind: 'kept', message: 'It waits here.' }, 'Pond', 'UTC', 'ph')).toEqual(['It waits here.']);
	});
});

describe('what is measured at a station', () => {
	const kit = {
		...meter('kit', {
			perDrop: { alkalinity: { value: 1, unit: 'dKH' as const } },
			before: [
				{
					until: 1000,
					quantities: {},
					ppmScale: null,
					compensates: true,
					alphaPctPerC: 2,
					continuous: false,
					perDrop: { alkalinity: { value: 0.5, unit: 'dKH' as const } },
				},
			],
		}),
		kind: 'drop_kit' as const,
	};
	const here = {
		...site,
		stations: [{ info: { code: 'pond' }, measured: ['ph', 'alkalinity', 'tds'], seen: [] }],
		instruments: [meter('plum'), kit],
	} as unknown as SiteView;
	it('is what its rhythm asks for, what was asked beside it, and what holds a text', () => {
		expect(otherFields({ ...draft({ orp: '250' }), more: ['level'] }, here)).toEqual(['alkalinity', 'level', 'orp']);
	});
	it('pens measure what pens do; what a kit counts drops for is the kit’s', () => {
		const found = entriesOf(dipsOf(draft({ ph: '6', alkalinity: '5 drops' }), here, engine, 1000));
		expect(found.map((e) => [e.q, e.instrument, e.v.digits, e.v.unit])).toEqual([
			['ph', 'plum', '6', 'pH'],
			['alkalinity', 'kit', '5', 'dKH'],
		]);
	});
	it('a drop stood for what the kit of then said; what nobody had said of it is what is said now', () => {
		const then = (texts: object, more: object = {}) =>
			entriesOf(dipsOf({ ...draft(texts), ...more }, here, engine, 999)).map((e) => [e.v.digits, e.v.unit]);
		expect(then({ alkalinity: '5 drops' })).toEqual([['2.5', 'dKH']]);
		kit.info.perDrop = { ...kit.info.perDrop, hardness: { value: 2, unit: 'dGH' } };
		expect(then({ hardness: '3 drops' }, { by: { hardness: 'kit' } })).toEqual([['6', 'dGH']]);
	});
});
