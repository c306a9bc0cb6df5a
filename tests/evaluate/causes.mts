// npm run evaluate:causes [-- first last]: how often the true cause of a wander is named, on worlds that have one.
import { causesCourse, driftingCourse, type Tally } from './causes-course';

const [first = '1', last = '800'] = process.argv.slice(2);
const print = (name: string, { counts }: Tally) => {
	for (const [group, c] of [...counts].sort(([a], [b]) => a.localeCompare(b))) {
		const share = (n: number) => `${((100 * n) / c.n).toFixed(0)} %`;
		console.log(
			`${`${name} ${group}`.padEnd(30)} ${String(c.n).padStart(5)}: first ${share(c.first)}, of two ${share(c.two)}, sure and wrong ${share(c.wrong)}, cannot tell ${share(c.cannotTell)}, silent ${share(c.silent)}`,
		);
	}
};
print('causes', causesCourse(Number(first), Number(last)));
print('drifting', driftingCourse(Number(first), Number(last)));
