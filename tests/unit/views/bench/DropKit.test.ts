import { describe, expect, it } from 'vitest';
import { printedInterval, USUAL_PRINTED } from '@/views/bench/DropKit';

describe('drop kits by printed value', () => {
	it('one match reaches half-way to its neighbours, two neighbours span between them, others are refused', () => {
		expect(printedInterval(USUAL_PRINTED, [5.5])).toEqual([5.25, 5.75]);
		expect(printedInterval(USUAL_PRINTED, [6, 5.5])).toEqual([5.5, 6]);
		expect(printedInterval(USUAL_PRINTED, [5, 6])).toBeNull();
		expect(printedInterval(USUAL_PRINTED, [4])).toEqual([3.75, 4.25]);
		expect(printedInterval([5, 6, 8], [6])).toEqual([5.5, 7]);
		expect(printedInterval(USUAL_PRINTED, [])).toBeNull();
	});
});
