import { z } from 'zod';

/**
 * The archive of an installation: a zip of one CSV for each table with a schema beside it, the book again in the CSV that people
 * read, and a manifest with what is in it. Nothing in it tells when it was made: the same book makes the same bytes.
 */
export const FORMAT_VERSION = 1;
export const MANIFEST = 'manifest.json';

const file = z.object({
	rows: z.number().int().nonnegative(),
	bytes: z.number().int().nonnegative(),
	sha256: z.string().regex(/^[0-9a-f]{64}$/),
});
export const manifest = z.object({
	format: z.literal('cordwain archive'),
	version: z.number().int().positive(),
	/** The newest migration of the tables it was taken from. */
	schema: z.number().int().positive(),
	sites: z.array(z.string()),
	counters: z.record(z.string(), z.number()),
	/** Of sensor samples, the first day of each. */
	months: z.array(z.string().regex(/^\d{4}-\d{2}-01$/)),
	/** In the order in which they are brought back. */
	tables: z.array(z.string().regex(/^[a-z_]+$/)),
	files: z.record(z.string(), file),
});
export type Manifest = z.infer<typeof manifest>;

export const tableFile = (table: string): string => `tables/${table}.csv`;
export const schemaFile = (table: string): string => `tables/${table}.schema.json`;
