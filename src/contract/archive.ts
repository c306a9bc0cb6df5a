import { z } from 'zod';
import { flag, instant } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const backup = wire({
	file: z.string(),
	at: instant,
	bytes: z.number(),
	sha256: z.string(),
	verified_at: instant
		.nullable()
		.describe('brought back into a database of its own and taken out again: the same bytes'),
	problem: z.string().describe('what was wrong when it was tried out; empty where nothing was'),
});

export const archive = resource('Archive', {
	'GET /export.zip': {
		summary:
			'Everything of this site, without secrets: a CSV and a schema for each table, the book in readable CSV, a manifest with counts and SHA-256. The same book makes the same bytes; `all=1`, for whoever was named first, of every site',
		query: wire({ all: flag.optional() }),
		alsoAnswers: ['application/zip'],
	},
	'POST /restore': {
		summary: 'Brings such an archive back into an empty installation, on this machine: all of it or nothing',
		rawBody: ['application/zip'],
		storesNothing: true,
		answer: z.object({ sites: z.array(z.string()), tables: z.number(), rows: z.number() }),
		problems: ['no-file', 'not-an-archive', 'not-empty', 'not-here'],
	},
	'GET /backups': {
		summary: 'Backups that were made by themselves, the newest first, and the folder of the machine they lie in',
		answer: z.object({ folder: z.string(), backups: z.array(backup) }),
	},
	'POST /backups': {
		summary: 'Backs up now; with `try=1` brings it back into a database of its own and takes it out again',
		query: wire({ try: flag.optional(), background: flag.optional() }),
		storesNothing: true,
		background: true,
		answer: z.object({ file: z.string(), problem: z.string() }),
		status: 201,
	},
});
