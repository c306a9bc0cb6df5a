-- A site that was filled with invented data to look at: it may be thrown away whole, which no other may.
ALTER TABLE site ADD COLUMN sample boolean NOT NULL DEFAULT false;

-- Originals are never overwritten nor emptied; only where all that there is is a sample the database lets everything go at once.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF TG_OP = 'TRUNCATE' AND (SELECT bool_and(sample) FROM site) THEN
		RETURN NULL;
	END IF;
	RAISE EXCEPTION '% is append-only: add a row that supersedes instead', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
