import { z } from 'zod';
import { type Client, type Db, SITE_ROLE } from './pool';
import { read } from './read';

/**
 * Lends the account of sites (store/pool) what it needs: the rows that the policies show it (migration 026), nothing that changes tables,
 * and nothing of people. Where the own account may not make another, nothing is lent, and connections work without a guard.
 */
export async function lendToSites(client: Client): Promise<void> {
	const [at] = await read(
		client,
		z.strictObject({ there: z.boolean(), makes: z.boolean(), all: z.boolean(), schema: z.string() }),
		`SELECT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = $1) AS there, rolsuper OR rolcreaterole AS makes, rolsuper AS "all", current_schema()::text AS schema
		FROM pg_roles WHERE rolname = current_user`,
		[SITE_ROLE],
	);
	if (!at?.there && !at?.makes) return;
	// Another database of the same cluster may make it at the same moment.
	if (!at.there)
		await client.query(
			`DO $$ BEGIN CREATE ROLE ${SITE_ROLE} NOLOGIN; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$`,
		);
	// From PostgreSQL 16 on whoever makes a role does not stand for it by that alone.
	if (at.makes && !at.all) await client.query(`GRANT ${SITE_ROLE} TO CURRENT_USER`);
	if (!(await canGuard(client))) return;
	const schema = `"${at.schema.replaceAll('"', '""')}"`;
	await client.query(`GRANT USAGE ON SCHEMA ${schema} TO ${SITE_ROLE}`);
	await client.query(`REVOKE ALL ON ALL TABLES IN SCHEMA ${schema} FROM ${SITE_ROLE}`);
	// Tables with a policy, and views that look with the eyes of whoever asks. Not their parts, which a policy of the whole does not hold
	// for when they are named themselves, and nothing of people.
	const lent = await read(
		client,
		z.strictObject({ name: z.string() }),
		`SELECT quote_ident(relname) AS name FROM pg_class WHERE relnamespace = current_schema()::regnamespace
			AND ((relkind IN ('r', 'p') AND relrowsecurity) OR (relkind = 'v' AND 'security_invoker=true' = ANY(reloptions)))`,
	);
	// Before migration 026 there is none.
	if (lent.length === 0) return;
	await client.query(
		`GRANT SELECT, INSERT, UPDATE, DELETE ON ${lent.map((t) => `${schema}.${t.name}`).join(', ')} TO ${SITE_ROLE}`,
	);
	await client.query(`GRANT SELECT, USAGE ON ALL SEQUENCES IN SCHEMA ${schema} TO ${SITE_ROLE}`);
}

/** Whether connections can work under the account of sites. */
export async function canGuard(db: Db): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ can: z.boolean() }),
		`SELECT coalesce((SELECT pg_has_role(current_user, oid, 'MEMBER') FROM pg_roles WHERE rolname = $1), false) AS can`,
		[SITE_ROLE],
	);
	return rows[0]!.can;
}

/** Whether it was lent what it needs. */
export async function isLent(db: Db): Promise<boolean> {
	if (!(await canGuard(db))) return false;
	const rows = await read(
		db,
		z.strictObject({ lent: z.boolean() }),
		`SELECT has_table_privilege($1, 'site', 'INSERT') AS lent`,
		[SITE_ROLE],
	);
	return rows[0]!.lent;
}

/** The same for the queue of work, which has tables of its own: a message is put into it with what it tells of. */
export async function lendWorkToSites(client: Client): Promise<void> {
	if (!(await canGuard(client))) return;
	await client.query(`GRANT USAGE ON SCHEMA pgboss TO ${SITE_ROLE}`);
	await client.query(`GRANT SELECT, INSERT, UPDATE ON ALL TABLES IN SCHEMA pgboss TO ${SITE_ROLE}`);
}
