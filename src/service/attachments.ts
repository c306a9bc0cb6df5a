import { createHash } from 'node:crypto';
import { zipSync } from 'fflate';
import type { AttachedType } from '@/contract/attachments';
import { clean, isOfType } from '@/files/clean-picture';
import { attachmentBytes, insertAttachment, listAttachments, removeAttachment } from '@/store/attachments';
import { findEvent } from '@/store/events';
import type { Db } from '@/store/pool';
import { findReading } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const MOST_BYTES = 2 * 1024 * 1024;

const refuse = (path: string, message: string): Refusal => new Refusal('bad-attachment', [{ path, message }]);

/** Keeps a photo or file beside a reading or an event; of a picture nothing but the picture. */
export async function attach(
	db: Db,
	context: SiteContext,
	a: { reading: number | null; event: number | null; name: string; type: AttachedType; base64: string },
	who: string,
): Promise<number> {
	if ((a.reading === null) === (a.event === null))
		throw refuse('reading', 'Give the number of one reading or of one event.');
	const given = Uint8Array.from(Buffer.from(a.base64, 'base64'));
	if (given.length === 0) throw refuse('base64', 'The file is empty, or not written in base64.');
	if (given.length > MOST_BYTES) throw refuse('base64', 'At most 2 MB: make the picture smaller.');
	if (!isOfType(given, a.type)) throw refuse('type', `The file is not ${a.type}: send it as what it is.`);
	const bytes = clean(given, a.type);
	if (!bytes) throw refuse('base64', 'The picture is broken: its end is missing, or it is no picture.');
	const siteId = context.site.id;
	return writing(db, async (client) => {
		if (a.reading !== null && !(await findReading(client, siteId, a.reading)))
			throw new Refusal('no-such-reading', [{ path: 'reading', message: 'There is no such reading.' }]);
		if (a.event !== null && !(await findEvent(client, siteId, a.event)))
			throw new Refusal('no-such-event', [{ path: 'event', message: 'There is no such event.' }]);
		const sha256 = createHash('sha256').update(bytes).digest('hex');
		const id = await insertAttachment(client, siteId, {
			readingId: a.reading,
			eventId: a.event,
			name: a.name,
			type: a.type,
			bytes,
			sha256,
			who,
		});
		await insertAudit(client, siteId, who, 'attachment.added', a.name, { reading: a.reading, event: a.event, sha256 });
		return id;
	});
}

/** Takes one away: its bytes are gone, that it was there stays in the record. */
export async function detach(db: Db, context: SiteContext, id: number, who: string): Promise<void> {
	await writing(db, async (client) => {
		if (!(await removeAttachment(client, context.site.id, id)))
			throw new Refusal('no-such-attachment', [
				{ path: 'id', message: 'There is no such file, or it was taken away.' },
			]);
		await insertAudit(client, context.site.id, who, 'attachment.removed', String(id), {});
	});
}

const quoted = (text: string): string => (/[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** All of them in one archive, with a table of what belongs to what. */
export async function attachmentsZip(db: Db, context: SiteContext): Promise<Uint8Array> {
	const rows = await listAttachments(db, context.site.id, {});
	const files: Record<string, Uint8Array> = {};
	const lines = ['file,reading,event,name,type,sha256,entered_at,entered_by'];
	for (const r of rows) {
		const kept = await attachmentBytes(db, context.site.id, r.id);
		if (!kept) continue;
		const file = `${r.id}.${EXTENSION[r.type] ?? 'bin'}`;
		files[file] = kept.bytes;
		lines.push(
			[
				file,
				r.readingId ?? '',
				r.eventId ?? '',
				r.name,
				r.type,
				r.sha256,
				new Date(r.enteredAt).toISOString(),
				r.enteredBy,
			]
				.map((v) => quoted(String(v)))
				.join(','),
		);
	}
	files['attachments.csv'] = new TextEncoder().encode(`${lines.join('\r\n')}\r\n`);
	// Pictures are packed already.
	return zipSync(files, { level: 0, mtime: new Date('2026-01-01T00:00:00Z') });
}
const EXTENSION: Record<string, string> = {
	'image/jpeg': 'jpg',
	'image/png': 'png',
	'application/pdf': 'pdf',
	'text/plain': 'txt',
	'text/csv': 'csv',
};
