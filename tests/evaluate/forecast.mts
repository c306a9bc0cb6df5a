// npm run evaluate:forecast [-- first last]: windows stated as 90 % on tanks whose future is known.
import { ask, quantile } from './forecast-windows';

const [first = '1', last = '3000'] = process.argv.slice(2);
const { asked, stated, never } = ask(Number(first), Number(last));
console.log(`asked ${asked}, stated ${stated.length}, of those never reached within 60 days ${never}`);
for (const what of ['ph', 'ec'] as const) {
	const of = stated.filter((s) => s.what === what);
	const share = (list: unknown[]) => `${((100 * list.length) / of.length).toFixed(1)} %`;
	const relative = of.map((s) => s.off);
	const spread = quantile(relative, 0.95) - quantile(relative, 0.05);
	const width = of.reduce((n, s) => n + s.width, 0) / of.length;
	console.log(
		`${what}: ${of.length}, held ${share(of.filter((s) => s.held))}, before it ${share(of.filter((s) => s.early))}, width/spread ${(width / spread).toFixed(2)}, ahead ${quantile(
			of.map((s) => s.ahead),
			0.5,
		).toFixed(1)} days, wide ${quantile(
			of.map((s) => s.width),
			0.5,
		).toFixed(1)}`,
	);
}
