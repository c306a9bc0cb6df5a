-- What the columns of a grower's own spreadsheets mean, said once and kept.
CREATE TABLE sheet_mapping (
	site_id   integer NOT NULL REFERENCES site,
	name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	mapping   jsonb NOT NULL,
	changed_at timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, name)
);
