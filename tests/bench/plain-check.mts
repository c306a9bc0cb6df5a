// The plain way of checking a file, for comparison: fixed limits and a rolling median with scaled MADs, line by line.
import { createReadStream } from 'node:fs';
import { csvRecords } from '@/files/csv-stream';
import { PlainBaseline } from '../evaluate/baseline';

const baseline = new PlainBaseline();
let batch = '';
for await (const { line, cells } of csvRecords(createReadStream(process.argv[2]!, { highWaterMark: 1 << 18 }))) {
	if (line === 1) continue;
	const [time, station, instrument, quantity, value, unit] = cells as [string, string, string, string, string, string];
	const flag = baseline.flag({ station, quantity, value, unit }) ? 3 : 1;
	batch += `${line},${time},${station},${instrument},${quantity},${value},${unit},${flag}\n`;
	if (batch.length > 1 << 16) {
		process.stdout.write(batch);
		batch = '';
	}
}
process.stdout.write(batch);
