import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { standingOf } from '@/core/trust/standing';
import {
	DOUBTFUL,
	DOUBTFUL_OTHERWISE,
	NOT_FOR_REVIEW,
	PURPOSES,
	permits,
	QUERIED,
	trustLists,
	waits,
} from '@/core/trust/trust';

/** Facts of the trade (common practice, no source). */
describe('what a reading may be used for', () => {
	it('a sound one for everything but a decision; one that a person keeps too', () => {
		for (const r of [{ flag: 1 }, { flag: 2 }, { flag: null }, { flag: 4, cause: 'decimal-slip', decision: 'keep' }]) {
			expect(PURPOSES.filter((p) => !permits(r, p))).toEqual(['review']);
			expect(waits(r)).toBe(false);
		}
	});
	it('a slip of the hand for nothing until somebody decides', () => {
		const slip = { flag: 3, cause: 'decimal-slip' };
		expect(['history', 'dose', 'water', 'restate'].some((p) => permits(slip, p as 'dose'))).toBe(false);
		expect(permits(slip, 'station')).toBe(true);
		expect(waits(slip)).toBe(true);
		expect(waits({ ...slip, decision: 'discard' })).toBe(false);
		expect(waits({ ...slip, decision: 'retest' })).toBe(true);
	});
	it('a pen that is overdue doubts every reading: they are dosed on, charted, and asked about once at the pen', () => {
		const overdue = { flag: 3, cause: 'calibration-overdue' };
		for (const p of ['history', 'dose', 'water'] as const) expect(permits(overdue, p)).toBe(true);
		expect(waits(overdue)).toBe(false);
	});
	it('pH of pure water is noted and never dosed on; a shift of a source is the water, and no dose', () => {
		expect(permits({ flag: 3, cause: 'low-ionic-strength' }, 'dose')).toBe(false);
		expect(permits({ flag: 3, cause: 'low-ionic-strength' }, 'history')).toBe(true);
		expect(permits({ flag: 3, cause: 'source-shift' }, 'water')).toBe(true);
		expect(permits({ flag: 3, cause: 'source-shift' }, 'dose')).toBe(false);
	});
	it('a wrong time says nothing of when, a pen in the air nothing of the water, and neither of the other', () => {
		expect(permits({ flag: 4, cause: 'clock' }, 'sequence')).toBe(false);
		expect(permits({ flag: 3, cause: 'clock' }, 'sequence')).toBe(true);
		expect(permits({ flag: 3, cause: 'clock' }, 'compare')).toBe(false);
		expect(permits({ flag: 4, cause: 'probe-in-air' }, 'sequence')).toBe(true);
		expect(permits({ flag: 4, cause: 'probe-in-air' }, 'level')).toBe(false);
	});
	it('what was given up is used for nothing, whatever its flag', () => {
		for (const decision of ['discard', 'undo'])
			expect(PURPOSES.some((p) => permits({ flag: 1, decision }, p))).toBe(false);
	});
	it('the lists for queries say the same as the table, for every cause, flag, decision and purpose', () => {
		for (const purpose of QUERIED) {
			const l = trustLists(purpose);
			for (const flag of [null, 1, 2, 3, 4, 9])
				for (const cause of ['', 'decimal-slip', ...Object.keys(DOUBTFUL)])
					for (const decision of [null, 'keep', 'discard', 'undo', 'restore', 'retest']) {
						const byLists =
							!l.givenUp.includes(decision ?? '') &&
							((flag ?? 2) < l.belowFlag || decision === 'keep' || l.causes.includes(cause));
						expect(byLists).toBe(permits({ flag, cause, decision }, purpose));
					}
		}
		expect([...NOT_FOR_REVIEW].sort()).toEqual(['calibration-overdue', 'low-ionic-strength']);
	});
	it('the table in docs/checks.md is this one', () => {
		const docs = readFileSync(join(import.meta.dirname, '../../../../docs/checks.md'), 'utf8');
		for (const [cause, purposes] of [...Object.entries(DOUBTFUL), ['any other', DOUBTFUL_OTHERWISE] as const]) {
			const cells = PURPOSES.map((p) => (purposes.includes(p) ? ' yes |' : ' |')).join('');
			expect(docs).toContain(`| ${cause === 'any other' ? cause : `\`${cause}\``} |${cells}`);
		}
	});
	it('standing in words: sound, doubtful, bad, restated, discarded', () => {
		expect(standingOf({ flag: 1, decision: null })).toBe('sound');
		expect(standingOf({ flag: 3, decision: null })).toBe('doubtful');
		expect(standingOf({ flag: 9, decision: null })).toBe('bad');
		expect(standingOf({ flag: 1, decision: null, restated: 5.4 })).toBe('restated');
		expect(standingOf({ flag: 3, decision: 'discard' })).toBe('discarded');
		expect(standingOf({ flag: 3, cause: 'calibration-overdue', decision: null })).toBe('doubtful');
		expect(standingOf({ flag: 3, cause: 'calibration-overdue', decision: null, restated: 5.4 })).toBe('restated');
		expect(standingOf({ flag: 3, cause: 'decimal-slip', decision: null, restated: 5.4 })).toBe('doubtful');
	});
});
