// npm run evaluate:irrigation [-- first last]: advice followed in rows of bags in which salt has built up.
import { follow } from './irrigation-course';

const [first = '1', last = '200', tell] = process.argv.slice(2);
const all = [];
for (let seed = Number(first); seed <= Number(last); seed++) {
	const course = follow(seed);
	all.push(course);
	if (tell && (!course.mended || course.dry))
		console.error(seed, course.steps.join(' '), course.dry ? 'dry' : '', course.said.join('; '));
}
const share = (n: number, of: number) => `${((100 * n) / of).toFixed(1)} %`;
const held = all.flatMap((c) => c.held);
console.log(`rows ${all.length}`);
console.log(`under the limit within five steps ${share(all.filter((c) => c.mended).length, all.length)}`);
console.log(`a dry bag ${share(all.filter((c) => c.dry).length, all.length)}`);
console.log(`mended and none dry ${share(all.filter((c) => c.mended && !c.dry).length, all.length)}`);
console.log(
	`of those, bags within the acting limit inside ${share(all.filter((c) => c.mended && c.inside).length, all.filter((c) => c.mended).length)}`,
);
console.log(`steps on average ${(all.reduce((n, c) => n + c.steps.length, 0) / all.length).toFixed(1)}`);
console.log(`expectations stated as 90 % held ${share(held.filter(Boolean).length, held.length)} of ${held.length}`);
