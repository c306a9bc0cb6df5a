/** Whether the caller asks for CSV rather than JSON. */
export const wantsCsv = (request: Request): boolean =>
	/text\/csv/i.test(request.headers.get('accept') ?? '') || new URL(request.url).searchParams.get('format') === 'csv';

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
