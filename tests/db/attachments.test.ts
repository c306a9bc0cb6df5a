import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** Photos and files beside readings and events, over HTTP. */
let app: Application;
let event: number;
beforeAll(async () => {
	app = await startApplication('demo');
	const { body } = await postJson(app.base, '/events', { station: 'pond', kind: 'note', note: 'yellow tips' });
	event = body.id;
});
afterAll(() => app.stop());

/** The smallest JPEG that has all its parts, with a place in it. */
const hex = (text: string) => Buffer.from(text.replace(/\s/g, ''), 'hex');
const jpeg = Buffer.concat([
	hex('ffd8 ffe1 0012'),
	Buffer.from('Exif\0\0GPS 52.1 N', 'latin1').subarray(0, 16),
	hex('ffdb 0005 000102 ffda 0008 0101 0000 3f00 1234 ffd9'),
]);
const photo = (more: object = {}) => ({
	event,
	name: 'leaf.jpg',
	type: 'image/jpeg',
	base64: jpeg.toString('base64'),
	...more,
});
const list = async (query: string): Promise<Answer[]> =>
	(await (await fetch(`${app.base}/api/v1/attachments${query}`)).json()).attachments;

describe('a photo beside a note', () => {
	it('is kept without its place, shown as what it is, follows a correction, and can be taken away', async () => {
		const kept = await postJson(app.base, '/attachments', photo());
		expect(kept.status).toBe(201);
		const file = await fetch(`${app.base}/api/v1/attachments/${kept.body.id}/file`);
		expect(file.headers.get('content-type')).toBe('image/jpeg');
		expect(file.headers.get('content-security-policy')).toContain('sandbox');
		const bytes = Buffer.from(await file.arrayBuffer());
		expect(bytes.toString('latin1')).not.toContain('GPS');
		expect(bytes.subarray(0, 2)).toEqual(hex('ffd8'));
		const corrected = await postJson(app.base, `/events/${event}/correction`, { note: 'yellow tips, old leaves' });
		expect(await list(`?event=${corrected.body.id}`)).toMatchObject([{ id: kept.body.id, event, name: 'leaf.jpg' }]);
		const gone = await fetch(`${app.base}/api/v1/attachments/${kept.body.id}`, { method: 'DELETE' });
		expect(gone.status).toBe(200);
		expect(await list(`?event=${corrected.body.id}`)).toEqual([]);
		expect((await fetch(`${app.base}/api/v1/attachments/${kept.body.id}/file`)).status).toBe(404);
		event = corrected.body.id;
	});
	it('a lost answer keeps it once', async () => {
		const key = '5b0c9d0e-5d0f-4f0a-9a55-6a0f6f1f2a77';
		for (let i = 0; i < 2; i++)
			expect((await postJson(app.base, '/attachments', photo(), { 'idempotency-key': key })).status).toBe(201);
		expect(await list(`?event=${event}`)).toHaveLength(1);
	});
	it('all of them in one archive, with a table of what belongs to what', async () => {
		const answer = await fetch(`${app.base}/api/v1/attachments`, { headers: { accept: 'application/zip' } });
		const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
		const table = new TextDecoder().decode(files['attachments.csv']).trim().split('\r\n');
		expect(table[0]).toBe('file,reading,event,name,type,sha256,entered_at,entered_by');
		expect(table).toHaveLength(Object.keys(files).length);
		expect(table[1]).toContain(`,${event},leaf.jpg,image/jpeg,`);
	});
	it.each([
		['text that calls itself a picture', { base64: btoa('<script>') }, 'type'],
		['a picture that was cut off', { base64: jpeg.subarray(0, 30).toString('base64') }, 'base64'],
		['more than 2 MB', { type: 'text/plain', base64: Buffer.alloc(2_200_000, 97).toString('base64') }, 'base64'],
		['of nothing', { base64: '' }, 'base64'],
		['of a page', { type: 'text/html' }, 'type'],
		['of an event that is not there', { event: 1 }, 'event'],
		['of two things at once', { reading: 1 }, 'reading'],
	])('refuses %s, and says what to do', async (_, more, path) => {
		const { status, body } = await postJson(app.base, '/attachments', photo(more));
		expect([404, 422]).toContain(status);
		expect(body.errors[0].path).toBe(path);
	});
});
