import type { Socket } from 'node:net';
import type { Readable } from 'node:stream';
import { to as copyTo } from 'pg-copy-streams';
import type { Client } from '../pool';

/** What these streams and the driver know of one another. */
type Copy = ReturnType<typeof copyTo> & {
	query_timeout?: number;
	callback?: () => void;
	connection?: { stream: Socket };
	_onReadableEvent: (() => void) | null;
	handleError: (error: Error) => void;
};

/** Longer than any timer waits, ms. */
const NEVER_MS = 2 ** 31 - 1;

/** The last copy of each connection. */
const copies = new WeakMap<Client, Copy>();
/** Whether a connection can be of no further use: a copy on it was given up or failed, and more is coming than anybody will read. */
export const isSpoilt = (client: Client): boolean => copies.get(client)?.readableEnded === false;

/**
 * What a COPY … TO STDOUT gives, as fast as it is read: whoever downloads may be slow. Given up or failed it spoils its connection,
 * which has to be closed then (isSpoilt).
 */
export function copyOutOf(client: Client, sql: string): Readable {
	const copy = copyTo(sql) as Copy;
	// The driver gives up on a question after some time and hands its stream an error, whatever it is doing, also long after its end:
	// these streams never tell it that they have ended.
	copy.query_timeout = NEVER_MS;
	const handleError = copy.handleError.bind(copy);
	copy.handleError = (error) => {
		// What comes over the wire from now on finds nothing of it any more.
		if (copy._onReadableEvent) copy.connection?.stream.removeListener('readable', copy._onReadableEvent);
		handleError(error);
	};
	// Whoever reads it hears of an error as well; where nobody does any more it must not end the process.
	copy.on('error', () => {});
	copy.once('close', () => copy.callback?.());
	copies.set(client, copy);
	client.query(copy);
	return copy;
}
