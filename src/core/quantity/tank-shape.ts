import { done, type Outcome, refused } from '../outcome';
import { decimal } from './number';

/**
 * From the height on a dipstick to litres: `60 x 40` is a box of 60 by 40 cm, `round 50` stands on a circle of 50 cm, and a table of
 * centimetres and litres (`10 38; 20 81; 30 130`) is straight between its points. Geometry; centimetres and litres.
 */
export type TankShape =
	| { kind: 'box'; lengthCm: number; widthCm: number }
	| { kind: 'round'; acrossCm: number }
	| { kind: 'table'; points: readonly (readonly [number, number])[] };
export type ShapeProblem = 'no-such-shape' | 'table-not-rising';

const LEAST_CM = 1;
const MOST_CM = 10_000;
const size = (text: string): number | undefined => {
	const n = decimal(text.trim().replace(/\s*cm$/i, ''));
	return n !== undefined && n >= LEAST_CM && n <= MOST_CM ? n : undefined;
};

/**
 * @example tankShape('round 50').value // { kind: 'round', acrossCm: 50 }
 * @example tankShape('60 x 40').ok // true
 */
export function tankShape(text: string): Outcome<TankShape, ShapeProblem> {
	const t = text.trim().toLowerCase();
	const round = /^(?:round|ø|∅|diameter)\s*(.+)$/.exec(t);
	if (round) {
		const acrossCm = size(round[1]!);
		return acrossCm === undefined ? refused('no-such-shape') : done({ kind: 'round', acrossCm });
	}
	const box = /^(?:box\s*)?([\d.,]+)\s*(?:cm)?\s*[x×*]\s*([\d.,]+)\s*(?:cm)?$/.exec(t);
	if (box) {
		const [lengthCm, widthCm] = [size(box[1]!), size(box[2]!)];
		return lengthCm === undefined || widthCm === undefined
			? refused('no-such-shape')
			: done({ kind: 'box', lengthCm, widthCm });
	}
	const pairs = t
		.split(/[;\n]/)
		.filter((p) => p.trim() !== '')
		.map((p) => {
			const m = /^\s*([\d.,]+)\s*(?:cm)?\s*[:=\s]\s*([\d.,]+)\s*l?\s*$/.exec(p);
			const [cm, litres] = [m ? decimal(m[1]!) : undefined, m ? decimal(m[2]!) : undefined];
			return cm === undefined || litres === undefined ? null : ([cm, litres] as const);
		});
	if (pairs.length < 2 || pairs.some((p) => p === null)) return refused('no-such-shape');
	const points = (pairs as (readonly [number, number])[]).sort((a, b) => a[0] - b[0]);
	if (points.some(([cm, l], i) => i > 0 && (cm <= points[i - 1]![0] || l <= points[i - 1]![1])))
		return refused('table-not-rising');
	return done({ kind: 'table', points });
}

/**
 * Litres at a height, mm; null above the last line of a table, where nobody has measured.
 * @example litresAtLevel({ kind: 'box', lengthCm: 60, widthCm: 40 }, 100) // 24
 */
export function litresAtLevel(shape: TankShape, levelMm: number): number | null {
	const cm = levelMm / 10;
	if (!(cm >= 0)) return null;
	switch (shape.kind) {
		case 'box':
			return (shape.lengthCm * shape.widthCm * cm) / 1000;
		case 'round':
			return (Math.PI * shape.acrossCm * shape.acrossCm * cm) / 4000;
		case 'table': {
			const { points } = shape;
			if (cm > points.at(-1)![0]) return null;
			// Below the first line it is taken to run straight to nothing.
			const all = points[0]![0] > 0 ? [[0, 0] as const, ...points] : points;
			const i = Math.max(
				all.findIndex(([at]) => at >= cm),
				1,
			);
			const [[a, la], [b, lb]] = [all[i - 1]!, all[i]!];
			return la + ((cm - a) / (b - a)) * (lb - la);
		}
	}
}
