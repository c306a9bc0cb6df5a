import { describe, expect, it } from 'vitest';
import { DAY, MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

const water = (at: number, amount = 5) => ({ at, station: 'pond', kind: 'water_added', amount, unit: 'L' }) as const;

describe('events of a station', () => {
	it('are forgotten once they count no longer, and the verdict is the same with and without', () => {
		const [all, few] = [practised(), practised()];
		for (const e of [all, few]) {
			for (let i = 40; i > 0; i--) e.note(water(NEXT - i * DAY));
			e.note(water(NEXT - 5 * MINUTE, 40));
		}
		few.memory.forgetEvents('pond');
		expect(few.memory.look('pond').events.length).toBeLessThan(all.memory.look('pond').events.length);
		expect(few.memory.look('pond').events.at(-1)).toMatchObject({ amount: 40 });
		for (const value of ['1780', '1700', '1200'])
			expect(few.judge([reading(NEXT, 'pond', 'ec', value, 'uS/cm')])).toEqual(
				all.judge([reading(NEXT, 'pond', 'ec', value, 'uS/cm')]),
			);
	});
	it('of a station that was never read all stay: nothing says since when they count', () => {
		const e = practised();
		e.note({ ...water(NEXT - 100 * DAY), station: 'nowhere' });
		e.memory.forgetEvents('nowhere');
		expect(e.memory.look('nowhere').events).toHaveLength(1);
	});
});
