import { z } from 'zod';
import { type CamelCase, camelCase } from './names';

/** Names that are not the wire's own in camel case, by the name on the wire. */
type Renamed = Readonly<Record<string, string>>;

type Named<S extends z.ZodRawShape, N extends Renamed> = {
	[K in keyof z.output<z.ZodObject<S>> as K extends keyof N ? N[K] : K extends string ? CamelCase<K> : K]: z.output<
		z.ZodObject<S>
	>[K];
};

/**
 * An object as it goes over the wire and as the core knows it, declared once: keys with underscores there, in camel case
 * (or as `names` says) here. Decoding refuses keys that are not declared; encoding leaves them out, so that a row may be
 * handed over that knows more than is told.
 */
export function wire<
	S extends z.ZodRawShape,
	const N extends { readonly [K in keyof S]?: string } = Record<never, never>,
>(shape: S, names?: N) {
	const pairs = Object.keys(shape).map(
		(key) => [key, (names as Renamed | undefined)?.[key] ?? camelCase(key)] as const,
	);
	const rename = (from: 0 | 1, to: 0 | 1) => (value: Record<string, unknown>) => {
		const out: Record<string, unknown> = {};
		for (const pair of pairs) if (value[pair[from]] !== undefined) out[pair[to]] = value[pair[from]];
		return out;
	};
	return z.codec(z.strictObject(shape), z.custom<Named<S, N extends Renamed ? N : Record<never, never>>>(), {
		decode: (value) => rename(0, 1)(value) as never,
		encode: (value) => rename(1, 0)(value as Record<string, unknown>) as never,
	});
}

/** What goes over the wire of a value as the core knows it. @throws ZodError where the value is not what was declared */
export const onWire = <T extends z.ZodType>(schema: T, value: z.output<T>): z.input<T> => z.encode(schema, value);
