import { ofSiteHere } from '../data/site-here';

/** A standard as it is being dipped in: what is typed of it. */
export interface Step {
	standard: string;
	lot: string;
	found: string;
	left: string;
	mv: string;
}
/** Standards to choose from, the usual ones first. */
const PH = [
	'pH 7.00',
	'pH 7.01',
	'pH 4.01',
	'pH 10.01',
	'pH 6.86',
	'pH 9.18',
	'phthalate 4.005',
	'phosphate 6.865',
	'borax 9.180',
	'carbonate 10.012',
];
const EC = ['KCl 1413', 'KCl 84', 'KCl 2765', 'KCl 12880'];
export const blank = (standard: string): Step => ({ standard, lot: '', found: '', left: '', mv: '' });
/** The standards that a calibration begins with. */
export const start = (q: 'ph' | 'ec'): Step[] =>
	q === 'ph' ? [blank('pH 7.00'), blank('pH 4.01')] : [blank('KCl 1413')];
export const standardsFor = (q: 'ph' | 'ec'): readonly string[] => (q === 'ph' ? PH : EC);

/** A calibration that was left half typed, on this device. */
interface Draft {
	chosen: string;
	kind: 'adjust' | 'check';
	temp: string;
	steps: Step[];
}
const DRAFT = 'cordwain.calibrate';
export const keptDraft = (): Draft | null =>
	JSON.parse(localStorage.getItem(ofSiteHere(DRAFT)) ?? 'null') as Draft | null;
export const keepDraft = (draft: Draft | null): void =>
	draft ? localStorage.setItem(ofSiteHere(DRAFT), JSON.stringify(draft)) : localStorage.removeItem(ofSiteHere(DRAFT));
