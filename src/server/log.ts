import { randomUUID } from 'node:crypto';
import pino from 'pino';
import { settings } from '../../ops/settings.mjs';

/**
 * The one log, lines of JSON on standard error. It names requests, durations and faults; what people entered, names and
 * addresses with their queries stay out of it.
 */
export const log = pino(
	{
		level: settings().CORDWAIN_LOG,
		base: null,
		timestamp: pino.stdTimeFunctions.isoTime,
		serializers: { error: faultOf },
	},
	pino.destination({ dest: 2, sync: true }),
);

/** A fault without the values that a database puts into its messages. */
function faultOf(error: unknown): Record<string, unknown> {
	if (!(error instanceof Error)) return { kind: typeof error };
	const { code, constraint, table } = error as { code?: unknown; constraint?: unknown; table?: unknown };
	// Of a refusal by the database the code says what; its message may quote what somebody typed.
	const fromDatabase = typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code);
	return {
		kind: error.constructor.name,
		...(fromDatabase ? { code, constraint, table } : { message: error.message }),
		stack: (error.stack ?? '').split('\n').slice(1, 12),
	};
}

/** What a request is called in the log and in the answer’s header. */
export const requestId = (): string => randomUUID();

/**
 * A path without what was put into it: codes and numbers are values too.
 * @example pathShape('/api/v1/stations/pond/series') // '/api/v1/stations/…'
 */
export function pathShape(path: string): string {
	const parts = path.split('/').filter(Boolean);
	const kept = path.startsWith('/api/v1/') ? 3 : 1;
	return `/${parts.slice(0, kept).join('/')}${parts.length > kept ? '/…' : ''}`;
}
