/** Talks to the server; every refusal becomes an ApiProblem with words for the person. */
export class ApiProblem extends Error {
	constructor(
		readonly status: number,
		message: string,
		readonly errors: { path: string; message: string }[],
		readonly body: unknown,
	) {
		super(message);
	}
	/** The server or its database could not be reached: what was typed should wait and be sent again. */
	get unreachable(): boolean {
		return this.status === 0 || this.status === 503;
	}
}

export async function api<T>(
	path: string,
	init?: { method?: string; json?: unknown; body?: BodyInit; type?: string },
): Promise<T> {
	let response: Response;
	try {
		response = await fetch(`/api/v1${path}`, {
			method: init?.method ?? (init?.json === undefined && init?.body === undefined ? 'GET' : 'POST'),
			...(init?.json !== undefined
				? { body: JSON.stringify(init.json), headers: { 'content-type': 'application/json' } }
				: init?.body !== undefined
					? { body: init.body, headers: { 'content-type': init.type ?? 'text/csv' } }
					: {}),
		});
	} catch {
		throw new ApiProblem(0, 'Cordwain does not answer. What you typed is kept here; try again in a moment.', [], null);
	}
	const body: unknown = await response.json().catch(() => null);
	if (response.ok) return body as T;
	const p = body as { detail?: string; title?: string; errors?: { path: string; message: string }[] } | null;
	throw new ApiProblem(
		response.status,
		p?.detail || p?.title || `The server answered ${response.status}.`,
		p?.errors ?? [],
		body,
	);
}
