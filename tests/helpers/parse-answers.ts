import { againstContract } from './contract-check';

/** In every test, every answer of the API that fetch brings is parsed with the schema of its operation. */
const PARSES = Symbol.for('cordwain.parses');
const plain = globalThis.fetch;
const parsing: typeof fetch = async (input, init) => {
	const response = await plain(input, init);
	const url = new URL(response.url || String(input));
	const type = response.headers.get('content-type') ?? '';
	if (url.pathname.startsWith('/api/v1/') && type.includes('json') && init?.method !== 'HEAD') {
		const method = init?.method ?? (input instanceof Request ? input.method : 'GET');
		const path = url.pathname.slice('/api/v1'.length);
		const wrong = againstContract(method, path, response.status, type, await response.clone().json());
		if (wrong) throw new Error(`${method} ${path} ${wrong}`);
	}
	return response;
};
// Once for each worker, whose files share what is global.
if (!(PARSES in plain)) globalThis.fetch = Object.assign(parsing, { [PARSES]: true });
