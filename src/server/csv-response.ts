import { Neutral } from '@/files/for-spreadsheet';

/** Whether the caller asks for CSV rather than JSON. */
export const wantsCsv = (request: Request): boolean =>
	/text\/csv/i.test(request.headers.get('accept') ?? '') || new URL(request.url).searchParams.get('format') === 'csv';

/** Whether a CSV is to be opened by a spreadsheet: with `for=spreadsheet` no cell is taken for a formula. */
export const asksForSpreadsheet = (request: Request): boolean =>
	new URL(request.url).searchParams.get('for') === 'spreadsheet';

/** A CSV made harmless for spreadsheets; any other answer as it is. */
export function harmless(response: Response): Response {
	if (!response.body || !/^text\/csv/.test(response.headers.get('content-type') ?? '')) return response;
	const neutral = new Neutral();
	const body = response.body
		.pipeThrough(new TextDecoderStream() as unknown as TransformStream<Uint8Array, string>)
		.pipeThrough(
			new TransformStream<string, string>({
				transform: (piece, controller) => controller.enqueue(neutral.take(piece)),
				flush: (controller) => controller.enqueue(neutral.rest()),
			}),
		)
		.pipeThrough(new TextEncoderStream());
	return new Response(body, { status: response.status, headers: response.headers });
}

/** Streams CSV pieces. The first piece is awaited before the status is sent, so that a failure is still an error. */
export async function csvResponse(pieces: AsyncGenerator<string>, fileName: string): Promise<Response> {
	const encoder = new TextEncoder();
	let next: Promise<IteratorResult<string>> | null = Promise.resolve(await pieces.next());
	const body = new ReadableStream<Uint8Array>({
		async pull(controller) {
			const { done, value } = await (next ?? pieces.next());
			next = null;
			if (done) controller.close();
			else controller.enqueue(encoder.encode(value));
		},
		async cancel() {
			await pieces.return(undefined);
		},
	});
	return new Response(body, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': `attachment; filename="${fileName}"`,
			'cache-control': 'no-store',
		},
	});
}
