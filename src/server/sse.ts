import { log } from './log';

const BEAT_MS = 15_000;

/**
 * Answers with server-sent events until the browser leaves. `work` gets a function that sends one message and a signal
 * that ends with the connection; when work returns, the stream closes.
 */
export function serverSentEvents(
	request: Request,
	work: (send: (data: unknown, event?: string) => void, signal: AbortSignal) => Promise<void>,
): Response {
	const end = new AbortController();
	request.signal.addEventListener('abort', () => end.abort());
	const encoder = new TextEncoder();
	const stream = new ReadableStream<Uint8Array>({
		start(controller) {
			const write = (text: string) => {
				if (end.signal.aborted) return;
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					end.abort();
				}
			};
			write(': open\n\n');
			const beat = setInterval(() => write(': still here\n\n'), BEAT_MS);
			end.signal.addEventListener('abort', () => clearInterval(beat));
			work((data, event) => write(`${event ? `event: ${event}\n` : ''}data: ${JSON.stringify(data)}\n\n`), end.signal)
				.catch((error: unknown) => {
					if (!end.signal.aborted) log.error({ error }, 'stream');
				})
				.finally(() => {
					end.abort();
					try {
						controller.close();
					} catch {
						// The browser was quicker.
					}
				});
		},
		cancel() {
			end.abort();
		},
	});
	return new Response(stream, {
		headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
	});
}

/** Waits, or until the signal ends; says whether it may go on. */
export const pause = (ms: number, signal: AbortSignal): Promise<boolean> =>
	new Promise((resolve) => {
		if (signal.aborted) return resolve(false);
		const done = () => {
			clearTimeout(timer);
			signal.removeEventListener('abort', done);
			resolve(!signal.aborted);
		};
		const timer = setTimeout(done, ms);
		signal.addEventListener('abort', done, { once: true });
	});
