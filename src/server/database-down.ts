const CONNECTION_CODES = new Set([
	'ECONNREFUSED',
	'ECONNRESET',
	'ENOTFOUND',
	'EPIPE',
	'ETIMEDOUT',
	'57P01',
	'57P02',
	'57P03',
	'08000',
	'08003',
	'08006',
	'53300',
]);

/** Whether an error means that the database cannot be reached, rather than that it refused something. */
export function isDatabaseDown(error: unknown): boolean {
	if (!(error instanceof Error)) return false;
	const code = (error as NodeJS.ErrnoException).code;
	if (code !== undefined && CONNECTION_CODES.has(code)) return true;
	if (error instanceof AggregateError) return error.errors.some(isDatabaseDown);
	return /Connection terminated|Query read timeout|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
		error.message,
	);
}
