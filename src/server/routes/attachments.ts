import { attachments as resource } from '@/contract/attachments';
import { attach, attachmentsZip, detach } from '@/service/attachments';
import { Refusal } from '@/service/refusal';
import { attachmentBytes, listAttachments } from '@/store/attachments';
import { handle } from '../dispatch';

/** A file is never run by a browser as a page of this address: shown as what it is, or kept. */
const asFile = (bytes: Uint8Array, type: string, name: string): Response =>
	new Response(Buffer.from(bytes), {
		headers: {
			'content-type': type,
			'content-disposition': `${type.startsWith('image/') ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
			'content-security-policy': "default-src 'none'; sandbox",
			'x-content-type-options': 'nosniff',
			'cache-control': 'private, no-cache',
		},
	});

export const attachments = handle(resource, {
	'GET /attachments': async ({ query, db, site, request }) => {
		const context = await site();
		if (query.format === 'zip' || request.headers.get('accept')?.includes('application/zip'))
			return asFile(await attachmentsZip(db, context), 'application/zip', 'attachments.zip');
		return {
			attachments: await listAttachments(db, context.site.id, { readingId: query.reading, eventId: query.event }),
		};
	},
	'POST /attachments': async ({ body, db, site, who }) => ({ id: await attach(db, await site(), body, who) }),
	'GET /attachments/:id/file': async ({ params, db, site }) => {
		const file = await attachmentBytes(db, (await site()).site.id, params.id);
		if (!file)
			throw new Refusal('no-such-attachment', [
				{ path: 'id', message: 'There is no such file, or it was taken away.' },
			]);
		return asFile(file.bytes, file.type, file.name);
	},
	'DELETE /attachments/:id': async ({ params, db, site, who }) => {
		await detach(db, await site(), params.id, who);
		return { ok: true };
	},
});
