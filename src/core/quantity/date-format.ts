const made = new Map<string, Intl.DateTimeFormat>();

/**
 * How a time is written in a language and a zone, made once for each way of writing: making one takes longer than what it is used for.
 * @example dateFormat('en-GB', { timeZone: 'UTC', day: 'numeric', month: 'short' }).format(0) // '1 Jan'
 */
export function dateFormat(language: string, how: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
	const key = `${language} ${JSON.stringify(how)}`;
	let format = made.get(key);
	if (!format) {
		format = new Intl.DateTimeFormat(language, how);
		made.set(key, format);
	}
	return format;
}
