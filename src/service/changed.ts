/** What is not given stays as it was before, or is as usual where there was nothing before. */
export function changed<T extends object>(
	usual: T,
	before: T | undefined,
	change: { [K in keyof T]?: T[K] | undefined },
): T {
	const result = { ...usual, ...before };
	for (const key of Object.keys(change) as (keyof T)[]) {
		const value = change[key];
		if (value !== undefined) result[key] = value;
	}
	return result;
}
