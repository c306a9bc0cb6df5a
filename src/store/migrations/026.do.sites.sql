-- Several sites in one database, and nothing of one seen from another. A connection says which it works for (cordwain.site, set where
-- it is opened); everything of a book has site_id, and what the connection does not work for is not there for it. This holds for an
-- account that does not own the tables: store/guard lends one to each connection of a site.
CREATE FUNCTION site_here() RETURNS integer LANGUAGE sql STABLE PARALLEL SAFE AS $$
	SELECT nullif(current_setting('cordwain.site', true), '')::integer
$$;

DO $$
DECLARE t record;
BEGIN
	FOR t IN
		SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid
		WHERE c.relnamespace = current_schema()::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND a.attname = 'site_id' AND NOT a.attisdropped
			-- Who may do what is asked before it is known for which site.
			AND c.relname NOT IN ('membership', 'join_code')
	LOOP
		EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t.relname);
		EXECUTE format('CREATE POLICY of_site ON %I USING (site_id = (SELECT site_here()))', t.relname);
	END LOOP;
END $$;
ALTER TABLE site ENABLE ROW LEVEL SECURITY;
CREATE POLICY of_site ON site USING (id = (SELECT site_here()));

-- Makes a table, which only their owner may; samples of all sites share it.
ALTER FUNCTION make_sample_month(date) SECURITY DEFINER;
ALTER FUNCTION make_sample_month(date) SET search_path FROM CURRENT;

-- A sample is thrown away row by row: other sites stay.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF TG_OP = 'DELETE' AND current_setting('cordwain.throws_away', true) = 'on' AND EXISTS (SELECT 1 FROM site WHERE id = OLD.site_id AND sample) THEN
		RETURN OLD;
	END IF;
	RAISE EXCEPTION '% is append-only: add a row that supersedes instead', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;

-- A view looks with the eyes of whoever asks.
ALTER VIEW reading_judged SET (security_invoker = true);
ALTER VIEW reading_standing SET (security_invoker = true);
ALTER VIEW event_current SET (security_invoker = true);
