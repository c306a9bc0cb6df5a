import { randomUUID } from 'node:crypto';
import { dispatch } from '@/server/dispatch';
import { routes } from '@/server/routes';
import { atTheMachine } from './at-the-machine';

/** Asks an operation of the API in this very process, as a device with a key of its own would. */
export async function askHere(method: string, path: string, body?: unknown) {
	const request = new Request(`http://127.0.0.1/api/v1${path}`, {
		method,
		...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'idempotency-key': randomUUID() } }),
	});
	const response = await dispatch(routes, path.split('?')[0]!, request, atTheMachine(randomUUID()));
	return { status: response.status, body: await response.json() };
}
