import type { Finding, Verdict } from '../reading/model';
import { CHECKS } from './checks';
import type { Subject } from './checks/check';
import { stuckSince } from './checks/stuck';
import { fromWorking } from './working-scale';

/** What all checks say of a reading; the strongest finding decides. */
export function verdictOf(s: Subject): Verdict {
	const findings: Finding[] = [];
	for (const check of CHECKS) {
		const finding = check.run(s);
		if (finding) findings.push(finding);
	}
	if (findings.length > 1) findings.sort((a, b) => b.weight - a.weight);
	const deciding = findings[0] ?? null;
	const range = s.station.ranges[s.quantity];
	const verdict: Verdict = {
		flag: deciding ? deciding.flag : 1,
		deciding,
		findings,
		expected: s.prediction && expectedInterval(s),
		u: s.u,
		inRange: range ? s.reading.value >= range.low && s.reading.value <= range.high : null,
	};
	if (deciding?.cause === 'stuck') verdict.since = stuckSince(s);
	if (deciding && saysOfAllAlike(deciding)) verdict.since = s.agreeing?.since;
	return verdict;
}

/** What is true of the readings before that said the same as well. */
const saysOfAllAlike = ({ said }: Finding): boolean =>
	(said.code === 'far-from-history' && said.ask === 'alike-at-source') ||
	(said.code === 'probe-in-storage' && said.seen === 'buffer');

function expectedInterval(s: Subject): { value: number; low: number; high: number } {
	const p = s.prediction!;
	const reach = 2 * p.spread;
	return {
		value: fromWorking(s.quantity, p.level),
		low: fromWorking(s.quantity, p.level - reach - (p.event.direction <= 0 ? p.event.reach : 0)),
		high: fromWorking(s.quantity, p.level + reach + (p.event.direction >= 0 ? p.event.reach : 0)),
	};
}
