import { describe, expect, it } from 'vitest';
import { saltContent } from '@/core/mix/feed/salts';
import { type StockPart, stockPlan, tankFor, trueRatio } from '@/core/mix/feed/stock-tank';

const salt = (
	name: 'calcium nitrate' | 'magnesium sulfate' | 'potassium sulfate' | 'potassium nitrate',
	perL: number,
	tank: string,
): StockPart => ({
	product: name,
	bottle: '',
	unit: 'g',
	perL,
	tank,
	content: saltContent(name),
	salt: name,
});

describe('stock tanks for an injector', () => {
	it('1:100 in 20 L: a hundred times the rate for each litre, for 2,000 L of feed', () => {
		// Common practice: 0.5 g/L of feed is 50 g/L of stock, 1 kg in 20 L.
		const plan = stockPlan([salt('calcium nitrate', 0.5, 'A'), salt('magnesium sulfate', 0.25, 'B')], 100, 20);
		expect(plan.feedL).toBe(2000);
		expect(plan.tanks.map((t) => [t.tank, t.amounts[0]!.amount])).toEqual([
			['A', 1000],
			['B', 500],
		]);
		expect(plan.remarks).toEqual([]);
	});
	it('calcium never stands with sulfate or phosphate', () => {
		const plan = stockPlan([salt('calcium nitrate', 0.5, 'A'), salt('magnesium sulfate', 0.25, 'A')], 100, 20);
		expect(plan.remarks).toEqual([
			{ code: 'stock-falls-out', tank: 'A', calcium: 'calcium nitrate', against: 'magnesium sulfate' },
		]);
	});
	it('potassium sulfate dissolves 110 g/L and no more', () => {
		expect(stockPlan([salt('potassium sulfate', 1.2, 'B')], 100, 10).remarks).toEqual([
			{ code: 'stock-too-strong', product: 'potassium sulfate', gL: 120, mostGL: 110 },
		]);
		expect(stockPlan([salt('potassium sulfate', 0.7, 'B')], 100, 10).remarks).toEqual([]);
	});
	it('a liquid feed that is weaker than the ratio has no room in the tank', () => {
		const liquid: StockPart = {
			product: 'feed',
			bottle: 'A',
			unit: 'mL',
			perL: 12,
			tank: 'A',
			content: null,
			salt: '',
		};
		expect(stockPlan([liquid], 100, 10).remarks).toEqual([{ code: 'stock-over-full', tank: 'A', litresForEach: 1.2 }]);
	});
	it('what is not known is not said to bear the rest', () => {
		const plan = stockPlan(
			[
				salt('potassium nitrate', 0.5, 'A'),
				{ ...salt('calcium nitrate', 1, 'A'), product: 'x', content: null, salt: '' },
			],
			100,
			10,
		);
		expect(plan.remarks).toEqual([{ code: 'stock-not-known', tank: 'A', product: 'x' }]);
	});
	it('puts each where it bears the others', () => {
		expect(tankFor({ bottle: '', content: saltContent('calcium nitrate') })).toBe('A');
		expect(tankFor({ bottle: '', content: saltContent('magnesium sulfate') })).toBe('B');
		expect(tankFor({ bottle: '', content: saltContent('potassium nitrate') })).toBe('A');
		expect(tankFor({ bottle: 'B', content: null })).toBe('B');
	});
	it('tells what an injector gives from the EC of what comes out', () => {
		expect(trueRatio(100, { waterEcUsCm: 300, expectedEcUsCm: 1800, seenEcUsCm: 1500 })).toBe(125);
		expect(trueRatio(100, { waterEcUsCm: 300, expectedEcUsCm: 1800, seenEcUsCm: 250 })).toBeNull();
	});
});
