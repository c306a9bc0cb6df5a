import { againstContract } from './contract-check';

/** In every test, every answer of the API that fetch brings is parsed with the schema of its operation. */
const plain = globalThis.fetch;
globalThis.fetch = async (input, init) => {
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
