import { expect, it } from 'vitest';
import { createPool } from '@/store/pool';
import { secondsBehind } from '@/store/replica';
import { type Answer, postJson, startApplication } from '../helpers/application';
import { freshDatabase } from '../helpers/database';

/** Charts are drawn from the copy that DATABASE_READS names, and from the database itself where that does not answer. */
const AT = '2026-07-14T09:30:00Z';
const reading = { time: AT, station: 'pond', instrument: 'plum', quantity: 'ph', value: '5.93', unit: 'pH' };
async function shown(base: string): Promise<{ chart: boolean; ledger: boolean }> {
	const got = async (path: string): Promise<Answer> => (await fetch(`${base}/api/v1${path}`)).json();
	const series = await got(
		'/stations/pond/series?quantity=ph&of=hands&from=2026-07-14T09:00:00Z&to=2026-07-14T10:00:00Z',
	);
	const { readings } = await got('/readings?station=pond&quantity=ph&limit=1');
	return { chart: series.points.length > 0, ledger: readings[0].time === AT };
}

it('a copy that has not heard of it yet draws the chart without it; the Ledger asks the database itself', async () => {
	const app = await startApplication('demo', undefined, { DATABASE_READS: await freshDatabase('demo') });
	expect((await postJson(app.base, '/readings', [reading])).status).toBe(201);
	expect(await shown(app.base)).toEqual({ chart: false, ledger: true });
	await app.stop();
});

it('one that is away is told in the log, and nobody goes without a chart', async () => {
	let log = '';
	const hear = (text: string) => {
		log += text;
	};
	const app = await startApplication('demo', hear, {
		DATABASE_READS: 'postgres://nobody@127.0.0.1:1/none',
	});
	expect((await postJson(app.base, '/readings', [reading])).status).toBe(201);
	expect(await shown(app.base)).toEqual({ chart: true, ledger: true });
	await app.stop();
	expect(log.match(/the copy that charts are drawn from does not answer/g)).toHaveLength(1);
});

it('a database that follows none is not behind', async () => {
	const pool = createPool(await freshDatabase('empty'));
	expect(await secondsBehind(pool)).toBe(0);
	await pool.end();
});
