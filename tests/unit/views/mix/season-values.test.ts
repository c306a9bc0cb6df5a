import { describe, expect, it } from 'vitest';
import type { DisplayUnits } from '@/core/reading/site-view';
import { readSeason, seasonField, stageValues } from '@/views/mix/season-values';

const AT = { now: Date.UTC(2026, 6, 14, 10), zone: 'Europe/Amsterdam' };
const units = (ec: DisplayUnits['ec']): DisplayUnits => ({ ec, temp: 'C', volume: 'L' });
const stage = (name: string, ec: [number, number]) => ({
	name,
	days: 14,
	ec_us_cm: ec,
	ph: [5.5, 6.2] as [number, number],
});
const plan = { system: 'pond', version: 3, stages: [stage('seedling', [604, 903]), stage('growing', [1206, 1809])] };
const typed = (u: DisplayUnits) => ({ stages: plan.stages.map((s) => stageValues(s, u)) });

describe('a plan as it is typed', () => {
	it('targets in the grower’s own unit: 1.2 to 1.8 mS/cm are 600 to 900 ppm on the scale of 500, 840 to 1,260 on that of 700', () => {
		for (const [ec, text] of [
			['ppm500', '600 to 900'],
			['ppm700', '840 to 1260'],
			['mS/cm', '1,2 to 1,8'],
			['CF', '12 to 18'],
		] as const) {
			const v = typed(units(ec));
			v.stages[1]!.ec = text;
			const read = readSeason(plan, v, units(ec), AT);
			expect(read.ok && read.body!.stages[1]!.ec_us_cm.map((x) => Math.round(x))).toEqual([1200, 1800]);
		}
	});
	it('what nobody touched stays as it was, however it is shown, also where a stage before it was taken out', () => {
		const v = typed(units('mS/cm'));
		const whole = readSeason(plan, v, units('mS/cm'), AT);
		expect(whole.ok && whole.body!.stages.map((s) => s.ec_us_cm)).toEqual([
			[604, 903],
			[1206, 1809],
		]);
		const less = readSeason(plan, { stages: v.stages.slice(1) }, units('mS/cm'), AT);
		expect(less.ok && less.body!.stages[0]!.ec_us_cm).toEqual([1206, 1809]);
	});
	it('days as people say them; what cannot be read is told at its field', () => {
		const with0 = (change: object) => {
			const v = typed(units('mS/cm'));
			Object.assign(v.stages[0]!, change);
			return readSeason(plan, v, units('mS/cm'), AT);
		};
		const begun = with0({ begun: 'yesterday' });
		expect(begun.ok && begun.body!.stages[0]!.begun).toBe('2026-07-13');
		for (const [field, text] of [
			['days', 'many'],
			['ec', '1.2'],
			['ph', '6 to 5'],
			['begun', 'soon'],
		] as const)
			expect(with0({ [field]: text })).toMatchObject({ ok: false, field: `stages.0.${field}` });
		expect(seasonField('stages.2.ec_us_cm.0')).toBe('stages.2.ec');
		expect(seasonField('stages')).toBe('stages.0.name');
	});
});
