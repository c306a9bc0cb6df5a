/** A code for files and the API from a name: "Gutters drain" → gutters-drain. A name with no letters keeps itself. */
export const codeFrom = (name: string): string =>
	name
		.toLowerCase()
		.normalize('NFKD')
		.replace(/[\u0300-\u036f]/g, '')
		.replace(/[^a-z0-9]+/g, '-')
		.replace(/^-|-$/g, '') || name;
