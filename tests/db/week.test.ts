import { describe, expect, it } from 'vitest';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { attach } from '@/service/attachments';
import { decide } from '@/service/decide';
import { enterSamples } from '@/service/enter';
import { enterEvent } from '@/service/events';
import { saveStation } from '@/service/setup';
import { requireSite } from '@/service/site';
import { weekOf } from '@/service/week';
import { listBatches } from '@/store/batches';
import { withDatabase } from '../helpers/database';

const DAY = 86_400_000;
const zone = 'Europe/Amsterdam';
/** Monday 19 to Sunday 25 October 2026: its last day is an hour longer, for the clocks go back (IANA tz database). */
const at = (day: number, hour: number) => Date.UTC(2026, 9, day, hour);
const now = at(27, 12);
const by = { source: 'bench', who: 'grower', now };

describe('a week of the book', () => {
	it('counts what is believed, by station and quantity, within the days of the site', () =>
		withDatabase('empty', async (pool) => {
			const { saveSite } = await import('@/service/setup');
			await saveSite(pool, { name: 'Yard', timezone: zone }, 'grower');
			const bare = await requireSite(pool);
			await saveStation(
				pool,
				bare,
				{ code: 'pond', kind: 'reservoir', volumeL: 100, ranges: { ph: [5.5, 6.5] } },
				'grower',
			);
			const site = await requireSite(pool);
			const ph = (value: string) => ({ quantity: 'ph' as const, value, unit: 'pH', instrument: null });
			const entered = await enterSamples(
				pool,
				site,
				[
					// Sunday 18th, half an hour before midnight there: another week.
					{ at: at(18, 21.5), station: 'pond', readings: [ph('9.9')] },
					{ at: at(18, 22.5), station: 'pond', readings: [ph('6.0')] },
					{ at: at(20, 7), station: 'pond', readings: [ph('6.2')] },
					{ at: at(21, 7), station: 'pond', readings: [ph('6.7')] },
					{ at: at(22, 7), station: 'pond', readings: [ph('6.1')] },
					// The last half hour of the longer Sunday.
					{ at: at(25, 22.5), station: 'pond', readings: [ph('6.4')] },
					{ at: at(25, 23.5), station: 'pond', readings: [ph('5.0')] },
				],
				by,
			);
			const given = entered[4]!.readings[0]!.id;
			await decide(
				pool,
				site,
				[{ id: given }],
				{ kind: 'discard', reason: 'the drain' },
				{ who: 'helper', now: at(23, 8) },
			);
			await enterEvent(
				pool,
				site,
				{ at: at(21, 8), station: 'pond', kind: 'acid_added', amount: 5, unitText: 'mL', product: '', note: '' },
				by,
			);
			const week = await weekOf(pool, site, '2026-10-19', now);
			expect([week.from, week.to]).toEqual([at(18, 22), at(25, 23)]);
			expect(week.read).toMatchObject([
				{
					station: 'pond',
					quantity: 'ph',
					taken: 5,
					counted: 4,
					least: 6,
					greatest: 6.7,
					inRange: 3,
					newestAt: at(25, 22.5),
				},
			]);
			expect(week.read[0]!.mean).toBeCloseTo((6 + 6.2 + 6.7 + 6.4) / 4, 9);
			expect(week.events).toMatchObject([{ kind: 'acid_added', amount: 5 }]);
			expect((await weekOf(pool, site, undefined, at(25, 12))).day).toBe('2026-10-19');
			await expect(weekOf(pool, site, 'soon', now)).rejects.toThrow(/first day/);
		}));
	it('holds the batches that were begun in it, with their steps, and what was photographed', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const today = Date.now();
			const event = await enterEvent(
				pool,
				site,
				{ at: today, station: 'pond', kind: 'note', amount: null, unitText: '', product: '', note: 'tips' },
				{ who: 'grower', now: today },
			);
			const text = { name: 'tips.txt', type: 'text/plain' as const, base64: btoa('yellow') };
			await attach(pool, site, { reading: null, event, ...text }, 'grower');
			const week = await weekOf(pool, site, undefined, today);
			expect(week.attached).toMatchObject([{ eventId: event, name: 'tips.txt', size: 6 }]);
			const newest = (await listBatches(pool, site.site.id, 1))[0]!;
			const then = await weekOf(pool, site, sheetDay(newest.startedAt - DAY, zone), today);
			expect(then.batches).toContainEqual(newest);
			expect(newest.log.length).toBeGreaterThan(0);
			for (const b of then.batches) expect(b.startedAt >= then.from && b.startedAt < then.to).toBe(true);
			expect(then.attached).toEqual([]);
		}));
});
