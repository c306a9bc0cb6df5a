// npm run evaluate:dosing [-- first last [kind]]: advice on doses followed in simulated tanks of every kind, the worst first,
// and learned dosing in still, closed tanks. With a kind only that one, and what went badly in it line by line.
import { WORLD_KINDS, type WorldKind } from '@/sim/dosing/worlds';
import { stillTable } from './dosing-still';
import { tryKind, worldsTable } from './dosing-worlds';

const [first = '1', last = '10', only] = process.argv.slice(2);
const [from, to] = [Number(first), Number(last)];
const kinds = WORLD_KINDS.filter((k) => only === undefined || k === only);
if (kinds.length === 0) throw new Error(`No such kind of tank: ${only}. There are ${WORLD_KINDS.join(', ')}.`);
const tell = only === undefined ? undefined : (line: string) => console.error(line);
console.log(`seeds ${from} to ${to} of each kind\n`);
console.log(worldsTable(kinds.map((k: WorldKind) => tryKind(k, from, to, tell))));
if (only === undefined) {
	// As many still tanks as all kinds together.
	const many = (to - from + 1) * 10;
	console.log(`\n${many} still, closed tanks of 12 to 2,400 L, from pH 6.6–7.6 to 5.8\n`);
	console.log(stillTable(from * 1000, from * 1000 + many - 1));
}
