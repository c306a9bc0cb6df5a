import { TOLERANCE } from './drift';

/** Dips that say what a probe is worth now. */
const NEWEST = 6;

/**
 * How the newest dips of a probe in standards came out: passed where every standard showed within what is tolerated, as found.
 * @param dips oldest first, each with its standards
 * @example dipRecord('ph', [[{ nominal: 7, asFound: 7.05 }], [{ nominal: 7, asFound: 7.4 }]]) // { passed: 1, failed: 1 }
 */
export function dipRecord(
	quantity: 'ph' | 'ec',
	dips: readonly (readonly { nominal: number; asFound: number | null }[])[],
): { passed: number; failed: number } {
	const off = dips.slice(-NEWEST).flatMap((points) => {
		const errors = points.flatMap((p) =>
			p.asFound === null
				? []
				: [quantity === 'ph' ? Math.abs(p.asFound - p.nominal) : Math.abs(100 * (p.asFound / p.nominal - 1))],
		);
		return errors.length === 0 ? [] : [Math.max(...errors)];
	});
	const passed = off.filter((e) => e <= TOLERANCE[quantity]).length;
	return { passed, failed: off.length - passed };
}
