import { z } from 'zod';
import type { Db } from '../pool';
import { read } from '../read';

/**
 * What an archive holds: every table of the book, by the database's own catalogue, so that none can be forgotten. Left out is what is
 * secret, what was under way, and what belongs to this machine alone.
 */
export const LEFT_OUT = [
	'backup',
	'join_code',
	'passkey',
	'passkey_challenge',
	'schema_version',
	'sign_in',
	'stand_in_mail',
	'watch_delivery',
	'wrong_try',
] as const;
/** Columns that are secret. */
const SECRET: Readonly<Record<string, readonly string[]>> = {
	person: ['passphrase', 'pin'],
	node: ['token_sha256', 'token_made_at'],
};
/** Members of columns that are secret, of objects. */
const SECRET_MEMBERS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
	watch_settings: { mail: 'password', webhook: 'secret' },
};

export interface ArchivedColumn {
	name: string;
	type: string;
	nullable: boolean;
}
export interface ArchivedTable {
	name: string;
	columns: ArchivedColumn[];
	/** Names of the columns of its key, in order. */
	key: string[];
	/** Tables that it names rows of. */
	needs: string[];
}

const columnRow = z.strictObject({
	table: z.string(),
	name: z.string(),
	type: z.string(),
	nullable: z.boolean(),
});

/** Every table that is archived, those before that others name rows of. */
export const archivedTables = (db: Db): Promise<ArchivedTable[]> => tablesWithout(db, LEFT_OUT);

/** Who may come to a site is not of its book. */
const OF_PEOPLE = ['membership', 'join_code'];
/** Names of all tables that hold rows of sites, those before that others name rows of. */
export const tablesOfSites = async (db: Db): Promise<string[]> =>
	(await tablesWithout(db, OF_PEOPLE)).filter((t) => t.columns.some((c) => c.name === 'site_id')).map((t) => t.name);

async function tablesWithout(db: Db, leftOut: readonly string[]): Promise<ArchivedTable[]> {
	const columns = await read(
		db,
		columnRow,
		`SELECT c.relname AS "table", a.attname AS name, format_type(a.atttypid, a.atttypmod) AS type, NOT a.attnotnull AS nullable
		FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_attribute a ON a.attrelid = c.oid
		WHERE n.nspname = current_schema() AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND a.attnum > 0 AND NOT a.attisdropped
			AND a.attgenerated = '' AND c.relname <> ALL($1)
		ORDER BY c.relname, a.attnum`,
		[leftOut],
	);
	const keys = await read(
		db,
		z.strictObject({ table: z.string(), name: z.string() }),
		`SELECT c.relname AS "table", a.attname AS name FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = c.relnamespace
			CROSS JOIN LATERAL unnest(i.indkey::int[]) WITH ORDINALITY k(num, position)
			JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = k.num
		WHERE n.nspname = current_schema() AND i.indisprimary ORDER BY c.relname, k.position`,
	);
	const needs = await read(
		db,
		z.strictObject({ table: z.string(), needed: z.string() }),
		`SELECT DISTINCT c.relname AS "table", f.relname AS needed FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid JOIN pg_class f ON f.oid = k.confrelid
			JOIN pg_namespace n ON n.oid = c.relnamespace
		WHERE n.nspname = current_schema() AND k.contype = 'f' AND NOT c.relispartition AND NOT f.relispartition`,
	);
	const tables = [...new Set(columns.map((c) => c.table))].map((name): ArchivedTable => {
		const own = columns.filter((c) => c.table === name && !(SECRET[name] ?? []).includes(c.name));
		const key = keys.filter((k) => k.table === name).map((k) => k.name);
		return {
			name,
			columns: own.map(({ table: _, ...c }) => c),
			// Without a key every column tells one row from another.
			key: key.length > 0 ? key : own.map((c) => c.name),
			needs: needs.filter((x) => x.table === name && x.needed !== name).map((x) => x.needed),
		};
	});
	return inOrder(tables);
}

/** Those first that others name rows of; otherwise by name. */
function inOrder(tables: readonly ArchivedTable[]): ArchivedTable[] {
	const left = [...tables].sort((a, b) => (a.name < b.name ? -1 : 1));
	const sorted: ArchivedTable[] = [];
	while (left.length > 0) {
		const i = left.findIndex((t) => t.needs.every((n) => !left.some((l) => l.name === n)));
		// Tables that name one another: their keys are looked at when all is there.
		sorted.push(...left.splice(Math.max(i, 0), 1));
	}
	return sorted;
}

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
/** Letters are in the order of their numbers, wherever it is done. */
const sortedBy = (t: ArchivedTable, name: string): string =>
	/^(text|character)/.test(t.columns.find((c) => c.name === name)?.type ?? '')
		? `${quoted(name)} COLLATE "C"`
		: quoted(name);

/** Which rows are of one site: its own, and whoever has a role there. */
function ofSite(t: ArchivedTable, siteId: number): string {
	if (t.name === 'site') return `id = ${siteId}`;
	if (t.columns.some((c) => c.name === 'site_id')) return `site_id = ${siteId}`;
	if (t.name === 'person') return `owner OR id IN (SELECT person_id FROM membership WHERE site_id = ${siteId})`;
	throw new Error(`It is not known which rows of ${t.name} are of a site.`);
}

/** What a table is taken out by: its columns without what is secret, in the order of its key. @param siteId of one site alone; null: of all */
export function selectOf(t: ArchivedTable, siteId: number | null): string {
	const columns = t.columns.map(({ name }) => {
		const secret = SECRET_MEMBERS[t.name]?.[name];
		return secret ? `${quoted(name)} - '${secret}' AS ${quoted(name)}` : quoted(name);
	});
	return `SELECT ${columns.join(', ')} FROM ${quoted(t.name)}${siteId === null ? '' : ` WHERE ${ofSite(t, siteId)}`} ORDER BY ${t.key.map((k) => sortedBy(t, k)).join(', ')}`;
}
export const columnsOf = (names: readonly string[]): string => names.map(quoted).join(', ');
export const nameOf = (t: Pick<ArchivedTable, 'name'>): string => quoted(t.name);
