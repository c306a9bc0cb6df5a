// The plain way of checking a file, for comparison: fixed limits and a rolling median with scaled MADs, line by line.
import { createReadStream } from 'node:fs';
import { csvRecords } from '@/files/csv-stream';
import { PlainBaseline } from '../evaluate/baseline';

const baseline = new PlainBaseline();
const records = csvRecords(createReadStream(process.argv[2]!));
await records.next();
for await (const lines of records) {
	let out = '';
	for (const { line, cells } of lines) {
		const [time, station, instrument, quantity, value, unit] = cells as [
			string,
			string,
			string,
			string,
			string,
			string,
		];
		const flag = baseline.flag({ station, quantity, value, unit }) ? 3 : 1;
		out += `${line},${time},${station},${instrument},${quantity},${value},${unit},${flag}\n`;
	}
	process.stdout.write(out);
}
