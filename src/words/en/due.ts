import type { ProbeEventKind } from '@/core/probe/care';
import type { DueReason, IntervalReason } from '@/core/probe/due';

const CHOSEN: Record<Extract<IntervalReason, { code: 'chosen' }>['by'], string> = {
	weekly: 'weekly, as chosen',
	monthly: 'monthly, as chosen',
	before_use: 'before each use, as chosen',
	maker: 'as the maker says',
	days: 'every so many days, as chosen',
};
const UPSET: Record<ProbeEventKind, string> = {
	dropped: 'it was dropped',
	dried_out: 'it dried out',
	cleaned: 'it was cleaned',
	rehydrated: 'it was rehydrated',
	stored_wrong: 'it was stored wrong',
	new_probe: 'it is a new probe',
};

/** The size of an error: pH, or percent. */
export const errorSize = (quantity: 'ph' | 'ec', size: number): string =>
	quantity === 'ph' ? size.toFixed(2) : `${size.toFixed(1)} %`;

/** Why a probe is due, as the end of a sentence. */
export function dueWords(r: DueReason): string {
	switch (r.code) {
		case 'chosen':
			return CHOSEN[r.by];
		case 'learned':
			return `learned from ${r.from} intervals of its own: after ${Math.round(r.days)} days it is still within tolerance ${Math.round(100 * r.chance)} times in 100`;
		case 'too-few':
			return 'weekly, until three of its own calibrations are known';
		case 'upset':
			return `${UPSET[r.by]} since the last calibration`;
		case 'never-calibrated':
			return 'it has never been calibrated here';
		case 'wrong': {
			const off = `${errorSize(r.quantity, Math.abs(r.error))} too ${r.error > 0 ? 'high' : 'low'}`;
			return r.by === 'visit'
				? `it was found ${off} and not adjusted`
				: `it is probably ${off}: ${r.others.map((o) => `${o.name} disagreed in ${o.alike} of ${o.times} waters`).join(', ')}; one dip in a standard settles it`;
		}
	}
}
