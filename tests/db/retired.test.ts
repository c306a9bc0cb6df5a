import { describe, expect, it } from 'vitest';
import { frameSite } from '@/service/frame';
import { dueAlongTheLine } from '@/service/rounds';
import { saveInstrument, saveOrder, saveStation } from '@/service/setup';
import { requireSite } from '@/service/site';
import { withDatabase } from '../helpers/database';
import { DEMO_NOW } from '../helpers/global-setup';

/** What is retired is forgotten by lists and by nothing else. */
describe('what is no longer used', () => {
	it('a station and a pen: not on the round, not offered, but named and judged as before', () =>
		withDatabase('demo', async (pool) => {
			const before = await requireSite(pool);
			const info = before.known.stations.get('slabs');
			await saveStation(pool, before, { code: 'slabs', kind: 'reservoir', retired: true }, 'grower');
			await saveInstrument(pool, before, { code: 'brass', kind: 'ph', retired: true }, 'grower');
			const site = await requireSite(pool);
			const frame = await frameSite(pool, site, DEMO_NOW);
			expect(frame.stations.map((s) => s.info.code)).not.toContain('slabs');
			expect(frame.instruments.map((i) => i.info.code)).not.toContain('brass');
			expect(frame.retired).toEqual([
				{ code: 'slabs', name: 'Slabs tank', station: true },
				{ code: 'brass', name: 'Brass', station: false },
			]);
			const due = await dueAlongTheLine(pool, site, DEMO_NOW, null);
			expect(due.map((d) => d.code)).not.toContain('slabs');
			// The checks still know what they knew of it.
			expect(site.known.stations.get('slabs')).toEqual(info);
			expect(site.known.instruments.has('brass')).toBe(true);
			// Saying it twice does not move the day; brought back it is where it was.
			const since = async () =>
				(await pool.query(`SELECT retired_at AS at FROM station WHERE code = 'slabs'`)).rows[0].at;
			const day = await since();
			await saveStation(pool, site, { code: 'slabs', kind: 'reservoir', name: 'Slabs', retired: true }, 'grower');
			expect(await since()).toEqual(day);
			await saveStation(pool, await requireSite(pool), { code: 'slabs', kind: 'reservoir', retired: false }, 'grower');
			expect(await since()).toBeNull();
			const back = await requireSite(pool);
			expect(back.inUse.stations.map((s) => s.code)).toEqual(before.inUse.stations.map((s) => s.code));
		}));
	it('an order names every station in use once, or changes nothing', () =>
		withDatabase('demo', async (pool) => {
			const site = await requireSite(pool);
			const codes = site.stations.map((s) => s.code);
			const order = (list: string[]) => saveOrder(pool, site, list, 'grower');
			await expect(order(codes.slice(1))).rejects.toThrow(/missing/);
			await expect(order([...codes, 'attic'])).rejects.toThrow(/attic/);
			await expect(order([...codes, codes[0]!])).rejects.toThrow(/once/);
			await order([...codes].reverse());
			expect((await requireSite(pool)).stations.map((s) => s.code)).toEqual([...codes].reverse());
		}));
});
