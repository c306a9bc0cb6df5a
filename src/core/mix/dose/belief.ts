import { normalAt } from '../../stats/quasi-normal';

/**
 * What is believed of a tank when it is filled: total carbonate and phosphate (mmol/L, in equivalents of the product’s label)
 * how fast carbon dioxide leaves (per hour), and what roots and nitrifiers add (meq/L an hour, up or down), as a mixture of
 * normals, the first three of logarithms, drawn as possible tanks spread evenly over it
 * (Halton’s sequence: the same question has the same answer). Going through a filling multiplies their weights by the
 * likelihood of what was read (follow.ts); where few are left with any weight they are drawn anew around those (kernel with
 * shrinkage: Liu and West 2001, in Sequential Monte Carlo Methods in Practice). What a filling has taught is carried to the
 * next as its moments (assumed density filtering: Maybeck 1982, Stochastic Models, Estimation and Control, vol. 2).
 */
export interface Component {
	/** Means of the logarithms of carbonate, phosphate and loss, and of what roots add. */
	mean: readonly number[];
	/** Covariance of the same, rows. */
	cov: readonly (readonly number[])[];
	/** Of the mixture. */
	share: number;
}

/** Possible tanks with their weights. Arrays of one length; weights sum to 1. */
export interface Nodes {
	size: number;
	weight: Float64Array;
	/** When it was filled. */
	carbonFilled: Float64Array;
	phosphateFilled: Float64Array;
	lossPerHour: Float64Array;
	/** meq/L an hour. */
	uptake: Float64Array;
	/** Now, as the tank is followed. */
	carbon: Float64Array;
	phosphate: Float64Array;
	/** How often they were drawn. */
	drawn: number;
}

const SIZE = 360;
const LEAST_OF_COMPONENT = 110;

/** Lower triangle whose product with its transpose is the matrix (Cholesky). */
function triangle(m: Component['cov']): number[][] {
	const l = m.map(() => m.map(() => 0));
	for (let i = 0; i < m.length; i++)
		for (let j = 0; j <= i; j++) {
			let sum = m[i]![j]!;
			for (let k = 0; k < j; k++) sum -= l[i]![k]! * l[j]![k]!;
			l[i]![j] = i === j ? Math.sqrt(Math.max(sum, 1e-10)) : sum / l[j]![j]!;
		}
	return l;
}

const BASES = [2, 3, 5, 7];
const normals = (n: number): number[] => BASES.map((b) => normalAt(n + 1, b));
/** A row of a triangle times as many normals. */
const along = (row: readonly number[], z: readonly number[]): number => row.reduce((sum, v, i) => sum + v * z[i]!, 0);

/** Possible tanks of a mixture of beliefs, spread evenly by a Halton sequence, so that the same question has the same answer. */
export function drawFrom(mixture: readonly Component[]): Nodes {
	const counts = mixture.map((c) => Math.max(Math.round(SIZE * c.share), LEAST_OF_COMPONENT));
	const size = counts.reduce((a, b) => a + b, 0);
	const array = () => new Float64Array(size);
	const nodes: Nodes = {
		size,
		weight: array(),
		carbonFilled: array(),
		phosphateFilled: array(),
		lossPerHour: array(),
		uptake: array(),
		carbon: array(),
		phosphate: array(),
		drawn: 1,
	};
	let at = 0;
	for (const [n, c] of mixture.entries()) {
		const l = triangle(c.cov);
		for (let i = 0; i < counts[n]!; i++, at++) {
			const z = normals(i);
			nodes.carbonFilled[at] = Math.exp(c.mean[0]! + along(l[0]!, z));
			nodes.phosphateFilled[at] = Math.exp(c.mean[1]! + along(l[1]!, z));
			nodes.lossPerHour[at] = Math.exp(c.mean[2]! + along(l[2]!, z));
			nodes.uptake[at] = c.mean[3]! + along(l[3]!, z);
			nodes.weight[at] = c.share / counts[n]!;
		}
	}
	normalise(nodes);
	nodes.carbon.set(nodes.carbonFilled);
	nodes.phosphate.set(nodes.phosphateFilled);
	return nodes;
}

/** Makes the weights of the possible tanks sum to one, in place. */
export function normalise(n: Nodes): void {
	let sum = 0;
	for (const w of n.weight) sum += w;
	// Where nothing explains what was seen, all stay as likely as they were to one another.
	if (!(sum > 0)) n.weight.fill(1 / n.size);
	else for (let i = 0; i < n.size; i++) n.weight[i]! /= sum;
}

/** With fewer than this many tanks’ worth of weight left they are drawn anew. */
const FEW = 0.25;
/** Width of the kernel as a share of the spread. */
const KERNEL = 0.3;

/** Draws tanks of equal weight in the place of those with any, each moved a little within the spread of all. */
export function redrawWhereFew(n: Nodes): void {
	let squares = 0;
	for (const w of n.weight) squares += w * w;
	if (1 / squares > FEW * n.size) return;
	const { mean, cov } = momentsOf(n);
	const l = triangle(cov);
	const keep = Math.sqrt(1 - KERNEL * KERNEL);
	const lists = [n.carbonFilled, n.phosphateFilled, n.lossPerHour] as const;
	const old = {
		uptake: n.uptake.slice(),
		carbon: n.carbon.slice(),
		phosphate: n.phosphate.slice(),
		lists: lists.map((x) => x.slice()),
	};
	let [from, sum] = [0, n.weight[0]!];
	for (let i = 0; i < n.size; i++) {
		while (sum < (i + 0.5) / n.size && from < n.size - 1) sum += n.weight[++from]!;
		const z = normals(i + 37 * n.drawn);
		const factors = lists.map((list, d) => {
			const before = Math.log(old.lists[d]![from]!);
			const after = keep * before + (1 - keep) * mean[d]! + KERNEL * along(l[d]!, z);
			list[i] = Math.exp(after);
			return Math.exp(after - before);
		});
		n.uptake[i] = keep * old.uptake[from]! + (1 - keep) * mean[3]! + KERNEL * along(l[3]!, z);
		n.carbon[i] = old.carbon[from]! * factors[0]!;
		n.phosphate[i] = old.phosphate[from]! * factors[1]!;
	}
	n.weight.fill(1 / n.size);
	n.drawn++;
}

/** Mean and covariance over all weights, as a component has them. */
export function momentsOf(n: Nodes): Pick<Component, 'mean' | 'cov'> {
	const of = [n.carbonFilled.map(Math.log), n.phosphateFilled.map(Math.log), n.lossPerHour.map(Math.log), n.uptake];
	const mean = of.map((list) => {
		let sum = 0;
		for (let i = 0; i < n.size; i++) sum += n.weight[i]! * list[i]!;
		return sum;
	});
	const cov = of.map((x, a) =>
		of.map((y, b) => {
			let sum = 0;
			for (let i = 0; i < n.size; i++) sum += n.weight[i]! * (x[i]! - mean[a]!) * (y[i]! - mean[b]!);
			return sum;
		}),
	);
	return { mean, cov };
}

/** The values below which shares of the weights lie, each linear between points. One sort for all of them. */
export function quantiles(values: Float64Array, weight: Float64Array, chances: readonly number[]): number[] {
	const order: number[] = [];
	for (let i = 0; i < values.length; i++) if (weight[i]! > 1e-9) order.push(i);
	order.sort((a, b) => values[a]! - values[b]!);
	let all = 0;
	for (const i of order) all += weight[i]!;
	return chances.map((chance) => {
		const wanted = chance * all;
		let sum = 0;
		for (let n = 0; n < order.length; n++) {
			const i = order[n]!;
			const before = sum;
			sum += weight[i]!;
			if (sum < wanted) continue;
			if (n === 0) return values[i]!;
			const below = values[order[n - 1]!]!;
			return below + ((wanted - before) / weight[i]!) * (values[i]! - below);
		}
		return values[order[order.length - 1]!]!;
	});
}

/**
 * The value below which a share of the weights lies.
 * @example quantile(Float64Array.of(1, 2, 3), Float64Array.of(1, 1, 1), 0.5) // 1.5
 */
export const quantile = (values: Float64Array, weight: Float64Array, chance: number): number =>
	quantiles(values, weight, [chance])[0]!;
