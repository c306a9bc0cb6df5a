-- The stages of a system over its season, with their targets. What a plan was before stands in the audit.
CREATE TABLE plan (
	site_id       integer NOT NULL REFERENCES site,
	system_id     bigint NOT NULL,
	-- Grows with each change: two who change it at once find one another.
	version       integer NOT NULL CHECK (version > 0),
	-- Name, days, targets of EC and pH, and the day on which it began.
	stages        jsonb NOT NULL CHECK (jsonb_typeof(stages) = 'array' AND jsonb_array_length(stages) BETWEEN 1 AND 20),
	entered_by    text NOT NULL DEFAULT 'grower',
	entered_at    timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, system_id),
	FOREIGN KEY (site_id, system_id) REFERENCES system (site_id, id)
);
CREATE TRIGGER plan_not_emptied BEFORE TRUNCATE ON plan FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
