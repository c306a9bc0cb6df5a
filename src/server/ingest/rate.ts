/**
 * How often a node may send: so many requests at once, and so many a second in the long run. A node that sends every second for a day
 * is well below it; one in a loop is told when to try again.
 */
const AT_ONCE = 120;
const PER_S = 10;
const MOST_NODES = 10_000;

const left = new Map<number, { tokens: number; at: number }>();

/**
 * @returns seconds to wait; 0 where it may send now
 */
export function waitOf(node: number, now: number): number {
	if (left.size > MOST_NODES) left.clear();
	const own = left.get(node) ?? { tokens: AT_ONCE, at: now };
	own.tokens = Math.min(AT_ONCE, own.tokens + (Math.max(now - own.at, 0) / 1000) * PER_S);
	own.at = now;
	left.set(node, own);
	if (own.tokens < 1) return Math.ceil((1 - own.tokens) / PER_S);
	own.tokens--;
	return 0;
}
