/**
 * One suspicious standard is not proof. When two meters err alike in one bottle, the bottle is suspected: what their
 * calibrations change stays provisional until a second lot of that quantity has shown either meter the same error.
 */
export interface LotFinding {
	calibration: number;
	instrument: string;
	quantity: 'ph' | 'ec';
	at: number;
	lot: string;
	/** Found − nominal in pH, or in percent of nominal for EC. */
	error: number;
}

const WEEK = 7 * 86_400_000;
/** Errors this near are alike: two coarse displays apart, or a third of the error. */
const alike = (a: number, b: number, quantity: 'ph' | 'ec') =>
	Math.sign(a) === Math.sign(b) && Math.abs(a - b) <= Math.max(quantity === 'ph' ? 0.12 : 2, Math.abs(a) / 3);

/** Calibrations whose error another meter shared in the same bottle: the bottle may be wrong, so what they restate is provisional. */
export function provisionalCalibrations(
	findings: readonly LotFinding[],
	leaveAlone: Record<'ph' | 'ec', number>,
): Set<number> {
	const result = new Set<number>();
	for (const a of findings) {
		if (a.lot === '' || Math.abs(a.error) <= leaveAlone[a.quantity]) continue;
		const twin = findings.find(
			(b) =>
				b.instrument !== a.instrument &&
				b.quantity === a.quantity &&
				b.lot === a.lot &&
				Math.abs(b.at - a.at) <= WEEK &&
				Math.abs(b.error) > leaveAlone[a.quantity] &&
				alike(a.error, b.error, a.quantity),
		);
		if (!twin) continue;
		const agreed = findings.some(
			(c) =>
				c.quantity === a.quantity &&
				c.lot !== a.lot &&
				c.lot !== '' &&
				(c.instrument === a.instrument || c.instrument === twin.instrument) &&
				Math.abs(c.at - a.at) <= WEEK &&
				alike(c.error, a.error, a.quantity),
		);
		if (!agreed) result.add(a.calibration);
	}
	return result;
}
