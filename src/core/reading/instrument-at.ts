import type { InstrumentInfo } from './model';

/**
 * An instrument as it was set up at a time (ms since 1970, UTC): a meter that was switched to another scale, or got another probe, showed
 * what it showed then. A scale, or what a drop stands for, that nobody had named then is the one that was named since.
 * @example instrumentAt({ code: 'plum', quantities: {}, ppmScale: 700, compensates: true, alphaPctPerC: 2, continuous: false, before: [{ until: 1000, quantities: {}, ppmScale: 500, compensates: true, alphaPctPerC: 2, continuous: false }] }, 999).ppmScale // 500
 */
export function instrumentAt(instrument: InstrumentInfo, at: number): InstrumentInfo {
	const then = instrument.before?.find((v) => at < v.until);
	if (!then) return instrument;
	const { until: _, ...was } = then;
	const perDrop = instrument.perDrop && { perDrop: { ...instrument.perDrop, ...was.perDrop } };
	return { ...instrument, ...was, ...perDrop, ppmScale: was.ppmScale ?? instrument.ppmScale };
}
