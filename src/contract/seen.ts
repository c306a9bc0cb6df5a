import { z } from 'zod';
import { wire } from './wire';

/**
 * A change as it is sent: the thing itself, of which what is not sent stays, and what stood in the fields that are changed, so that two
 * who change the same do not undo one another.
 */
export function withSeen<
	S extends z.ZodRawShape,
	const N extends { readonly [K in keyof S]?: string } = Record<never, never>,
>(shape: S, names?: N) {
	const seen = wire(z.object(shape).partial().shape, names as never)
		.optional()
		.describe(
			'what stood in fields that are changed: where somebody has changed one of them meanwhile, nothing is saved (changed-meanwhile)',
		);
	return { ...shape, seen };
}
