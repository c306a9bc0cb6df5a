import { openBrowser } from './helpers/browser';

const steps = process.argv[2]!;
const size = process.argv[3] === 'phone' ? { width: 390, height: 844 } : { width: 1280, height: 800 };
const { context, close } = await openBrowser(size);
const page = await context.newPage();
const base = 'http://127.0.0.1:4455';
const say = (...x: unknown[]) => console.log(...x);
const shot = (name: string) => page.screenshot({ path: `/tmp/shots/${name}.png` });
try {
	await new Function('page', 'base', 'say', 'shot', `return (async()=>{${steps}})()`)(page, base, say, shot);
} finally {
	await close();
}
