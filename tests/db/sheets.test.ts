import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';

/** A spreadsheet as it is: looked at, read by a mapping that is kept, stored, and taken back as a whole. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const post = async (
	path: string,
	body: BodyInit,
	headers: Record<string, string> = {},
): Promise<{ status: number; body: Answer }> => {
	const response = await fetch(`${app.base}/api/v1${path}`, { method: 'POST', body, headers });
	return { status: response.status, body: await response.json() };
};
const SHEET =
	'Tanks of the yard\n\nDate;Time;pH;EC (mS/cm);Temp (°F)\n25/06/2026;7:40;6,1;1,95;68\n26/06/2026;7:45;6,2;1,97;69\n26/06/2026;18:00;abc;;\n';

/** A workbook as spreadsheets write it (ECMA-376), by hand: numbers, a date by its serial number, shared text. */
function workbook(): Uint8Array {
	const sheet = `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>
<row r="1"><c r="A1" t="inlineStr"><is><t>Date</t></is></c><c r="B1" t="inlineStr"><is><t>pH</t></is></c><c r="C1" t="inlineStr"><is><t>EC (mS/cm)</t></is></c></row>
<row r="2"><c r="A2" s="1"><v>46198</v></c><c r="B2"><v>6.05</v></c><c r="C2"><v>1.93</v></c></row></sheetData></worksheet>`;
	const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
	const rel = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
	const files = {
		'[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
		'_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${rel}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
		'xl/workbook.xml': `<?xml version="1.0"?><workbook xmlns="${main}" xmlns:r="${rel}"><sheets><sheet name="Log" sheetId="1" r:id="rId1"/></sheets></workbook>`,
		'xl/_rels/workbook.xml.rels': `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${rel}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${rel}/styles" Target="styles.xml"/></Relationships>`,
		'xl/styles.xml': `<?xml version="1.0"?><styleSheet xmlns="${main}"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>`,
		'xl/worksheets/sheet1.xml': sheet,
	};
	return zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
}
const keep = (name: string, guess: Answer, change: Answer = {}) =>
	post('/mappings', JSON.stringify({ name, mapping: { ...guess, station: 'pond', instrument: 'plum', ...change } }));

it('a text with titles, days first, decimal commas and °F: seen before anything is stored, then stored, then taken back', async () => {
	const looked = (await post('/sheets/look', SHEET)).body;
	expect(looked.orders).toEqual(['dmy']);
	expect(looked.guess).toMatchObject({ lines_before: 2, date_order: 'dmy' });
	expect(looked.guess.columns.map((c: Answer) => c.use.quantity ?? c.use.as)).toEqual([
		'date',
		'clock',
		'ph',
		'ec',
		'temp',
	]);
	expect((await keep('my tanks', looked.guess)).status).toBe(200);
	const dry = await post('/import?mapping=my%20tanks&dry_run=1', SHEET);
	expect(dry.body).toMatchObject({ good: 6, bad: 1, stored: 0 });
	expect(dry.body.problems).toEqual([{ line: 6, column: 'pH', message: '“abc” is not a number' }]);
	// With something wrong in it nothing is stored unless the good rows alone are asked for.
	expect((await post('/import?mapping=my%20tanks', SHEET)).status).toBe(422);
	const key = crypto.randomUUID();
	const stored = await post('/import?mapping=my%20tanks&keep_good=1', SHEET, { 'idempotency-key': key });
	expect(stored.body).toMatchObject({ stored: 6 });
	const asked = `${app.base}/api/v1/readings?station=pond&from=2026-06-25T00:00:00Z&to=2026-06-26T22:00:00Z&quantity=ph&limit=50`;
	// Of the yard's own mornings there are others.
	const values = async () =>
		(await (await fetch(asked)).json()).readings
			.filter((r: Answer) => ['2026-06-25T05:40:00Z', '2026-06-26T05:45:00Z'].includes(r.time))
			.map((r: Answer) => r.value);
	expect((await values()).sort()).toEqual(['6.1', '6.2']);
	const { imports } = await (await fetch(`${app.base}/api/v1/imports`)).json();
	expect(imports[0]).toMatchObject({ key, readings: 6, standing: 6 });
	expect((await post(`/imports/${key}/undo`, '{}')).body).toEqual({ undone: 6 });
	expect(await values()).toEqual([]);
	expect((await post(`/imports/${key}/undo`, '{}')).status).toBe(404);
});
it('a workbook, with a date by its number', async () => {
	const looked = (await post('/sheets/look', workbook() as BodyInit)).body;
	expect(looked.rows[1]).toEqual(['2026-06-25', '6.05', '1.93']);
	await keep('workbook', looked.guess, { clock: '07:40' });
	const report = await post('/import?mapping=workbook', workbook() as BodyInit, {
		'idempotency-key': crypto.randomUUID(),
	});
	expect(report.body).toMatchObject({ stored: 2, bad: 0 });
	const { readings } = await (
		await fetch(
			`${app.base}/api/v1/readings?station=pond&quantity=ph&from=2026-06-25T05:40:00Z&to=2026-06-25T05:41:00Z`,
		)
	).json();
	expect(readings.map((r: Answer) => r.value)).toEqual(['6.05']);
});
it('what is none says so: an old workbook, a damaged one, a name that nothing is kept under', async () => {
	const old = await post('/sheets/look', Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 0, 0]));
	expect([old.status, old.body.detail]).toEqual([422, expect.stringContaining('save it as .xlsx')]);
	expect((await post('/sheets/look', workbook().slice(0, 300) as BodyInit)).status).toBe(422);
	expect((await post('/sheets/look', '\n\n')).status).toBe(422);
	// Whatever stands where names of columns stand is told as it is, and cut.
	const wild = await post('/sheets/look', `${'x'.repeat(3000)}${',y'.repeat(400)}\n1,2\n`);
	expect([wild.status, wild.body.guess.columns.length, wild.body.guess.columns[0].name.length]).toEqual([
		200, 200, 200,
	]);
	expect((await post('/import?mapping=none', SHEET)).status).toBe(404);
});
