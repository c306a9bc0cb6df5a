-- What a step of a batch showed is a row of its own, and names the reading that showed it.
CREATE TABLE batch_step (
	site_id     integer NOT NULL,
	batch_id    bigint NOT NULL,
	-- From 0, without a gap: a step that was made meanwhile is told by it.
	position    integer NOT NULL CHECK (position >= 0),
	at          timestamptz NOT NULL,
	step        text NOT NULL CHECK (step IN ('filled','part','ec','diluted','fed','dosed','ph','next','done')),
	-- pH, or EC in µS/cm at 25 °C.
	expected    double precision,
	measured    double precision,
	words       text NOT NULL,
	-- Poured: mL or g, of each part.
	amount      double precision CHECK (amount >= 0),
	-- What the checks said of what was measured when the step was made, and why where it was doubted and kept.
	flag        smallint CHECK (flag IN (1, 2, 3, 4, 9)),
	doubt       text,
	-- Empty for steps of before it was kept.
	reading_id  bigint,
	PRIMARY KEY (site_id, batch_id, position),
	FOREIGN KEY (site_id, batch_id) REFERENCES batch (site_id, id),
	FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id)
);
INSERT INTO batch_step (site_id, batch_id, position, at, step, expected, measured, words, amount, flag, doubt)
SELECT b.site_id, b.id, s.n - 1,
	CASE jsonb_typeof(s.e -> 'at') WHEN 'number' THEN to_timestamp((s.e ->> 'at')::double precision / 1000) ELSE coalesce((s.e ->> 'at')::timestamptz, b.started_at) END,
	s.e ->> 'step', (s.e ->> 'expected')::double precision, (s.e ->> 'measured')::double precision, coalesce(s.e ->> 'words', ''),
	(s.e ->> 'amount')::double precision, (s.e ->> 'flag')::smallint, s.e ->> 'doubt'
FROM batch b CROSS JOIN jsonb_array_elements(b.log) WITH ORDINALITY AS s(e, n);
ALTER TABLE batch DROP COLUMN log;
CREATE TRIGGER batch_step_append_only BEFORE UPDATE OR DELETE ON batch_step FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER batch_step_not_emptied BEFORE TRUNCATE ON batch_step FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
