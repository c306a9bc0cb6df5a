import { z } from 'zod';
import { AERATION, type Aeration } from '@/core/chem/degassing';
import { isQuantity, QUANTITIES, type Quantity, type Unit, unitNamed } from '@/core/quantity';
import { formatTime, parseTime } from '@/core/quantity/time';

/** What fields hold, whatever they are called. */
export const finite = z.number({
	// A word of its own would be said of every limit too.
	error: (issue: z.core.$ZodRawIssue) => {
		if (issue.code === 'too_small') return `must be ${issue.inclusive ? 'at least' : 'more than'} ${issue.minimum}`;
		if (issue.code === 'too_big') return `must be ${issue.inclusive ? 'at most' : 'less than'} ${issue.maximum}`;
		return 'must be a number';
	},
});
export const positive = finite.positive('must be more than 0');
export const notNegative = finite.nonnegative('must not be negative');
export const tempC = finite.min(-5, 'water is between −5 and 60 °C').max(60, 'water is between −5 and 60 °C');
export const ph = finite.min(0, 'pH is between 0 and 14').max(14, 'pH is between 0 and 14');
/** A pH that somebody aims at or guards: beyond it no solution is grown in. */
export const growingPh = finite.min(3).max(10);
/** Beyond 3 % per °C the linear form divides by nearly nothing in cold water. */
export const alpha = finite.min(0, 'at least 0 % per °C').max(3, 'at most 3 % per °C');
/** Beyond these no laboratory and no tank goes; huge numbers would only overflow further on. */
export const ecUsCm = notNegative.max(1e6, 'at most 1,000,000 µS/cm');
export const mgL = notNegative.max(1e6, 'at most 1,000,000 mg/L');
export const litres = positive.max(1e9, 'at most 1,000,000,000 L');

export const name = z.string().trim().min(1, 'must not be empty').max(200, 'at most 200 characters');
export const code = name
	.refine((c) => ![...c].some((x) => x < ' '), 'must not hold control characters')
	// In an address these are places and no names.
	.refine((c) => c !== '.' && c !== '..', 'must be more than dots');
/** Blanks around it are nothing: what goes out as CSV comes in without them. */
export const note = z.string().trim().max(2000);
export const shortText = z.string().trim().max(200);

/** A value with the bounds that hold it. */
export const bounded = z.object({ value: z.number(), low: z.number(), high: z.number() });
export const quantity = z.enum(QUANTITIES);
export const phOrEc = z.enum(['ph', 'ec']);
export const quantityText = z
	.string()
	.refine(isQuantity, 'is not a quantity')
	.transform((q) => q as Quantity);
export const unit = z.codec(z.string(), z.custom<Unit>(), {
	decode: (text, context): Unit => {
		const found = unitNamed(text);
		if (found) return found;
		context.issues.push({ code: 'custom', input: text, message: `“${text.slice(0, 40)}” is not a unit known here` });
		return z.NEVER;
	},
	encode: (found) => found,
});
export const aeration = z.enum(Object.keys(AERATION) as [Aeration, ...Aeration[]]);

/** A day that exists, as 2026-07-14. */
export const day = z.iso.date('a day that exists, as 2026-07-14').refine((d) => d >= '1900-01-01', 'a day since 1900');

/** An instant with its offset; a local time would be ambiguous in an API. */
export const instant = z.codec(z.string(), z.number(), {
	decode: (text, context): number => {
		const parsed = parseTime(text, 'UTC');
		if (parsed.ok && parsed.local === null) return parsed.at;
		if (parsed.ok && /^\d{4}-\d{2}-\d{2}$/.test(text.trim())) return parsed.at;
		context.issues.push({ code: 'custom', input: text, message: 'write the time as 2026-03-01T07:30:00Z' });
		return z.NEVER;
	},
	encode: formatTime,
});

/** A switch in an address: 1 or 0. */
export const flag = z.codec(z.enum(['0', '1']), z.boolean(), {
	decode: (text) => text === '1',
	encode: (on) => (on ? '1' : '0'),
});
/** Says csv: the same as Accept: text/csv, for links. */
export const csv = z.literal('csv').describe('csv: the same as Accept: text/csv, for links');

const id = z.codec(z.string(), z.number(), {
	decode: (text, context): number => {
		const n = Number(text);
		if (/^\d{1,15}$/.test(text) && Number.isSafeInteger(n)) return n;
		context.issues.push({ code: 'custom', input: text, message: 'There is nothing with this number.' });
		return z.NEVER;
	},
	encode: String,
});
/** The address of one thing by its number. */
export const byId = z.object({ id });

export const done = z.object({ ok: z.literal(true) });
export const made = z.object({ id: z.number() });
