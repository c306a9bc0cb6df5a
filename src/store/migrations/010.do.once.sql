-- Exactly once: what was answered to a request is kept with what it stored, so that a repeat is told from a second entry.

CREATE TABLE answered (
	site_id      integer NOT NULL REFERENCES site,
	-- A UUID that the caller made.
	key          uuid NOT NULL,
	operation    text NOT NULL,
	-- Of the request: the same key with another one is a mistake of the caller.
	fingerprint  text NOT NULL,
	status       smallint NOT NULL,
	-- To the letter.
	answer       text NOT NULL,
	at           timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, key)
);

-- What was read of one water at one visit.
CREATE TABLE sample (
	site_id  integer NOT NULL REFERENCES site,
	id       bigint NOT NULL DEFAULT nextval('row_id'),
	-- The request that brought it, and the device it was entered on (whose entry it is, until people sign in): empty where none
	-- was named. Both are settings of the transaction.
	key      uuid DEFAULT nullif(current_setting('cordwain.key', true), '')::uuid,
	device   uuid DEFAULT nullif(current_setting('cordwain.device', true), '')::uuid,
	PRIMARY KEY (site_id, id)
);
INSERT INTO sample (site_id, id) SELECT DISTINCT site_id, sample_id FROM reading;
ALTER TABLE sample ADD FOREIGN KEY (site_id, key) REFERENCES answered (site_id, key) DEFERRABLE INITIALLY DEFERRED;
CREATE INDEX sample_by_device ON sample (site_id, device, id DESC);
ALTER TABLE reading ADD FOREIGN KEY (site_id, sample_id) REFERENCES sample (site_id, id);
ALTER TABLE reading ADD FOREIGN KEY (site_id, supersedes) REFERENCES reading (site_id, id);
ALTER TABLE round_sample ADD FOREIGN KEY (site_id, sample_id) REFERENCES sample (site_id, id);
ALTER TABLE retest_answer ADD FOREIGN KEY (site_id, sample_id) REFERENCES sample (site_id, id);
-- With the number at its end a series comes out of its index in order, however many others there are.
DROP INDEX reading_by_station;
CREATE INDEX reading_by_station ON reading (site_id, station_id, quantity, at DESC, id DESC);
-- How long was waited is noted by few of them.
CREATE INDEX reading_waits ON reading (site_id, station_id, quantity, at DESC) WHERE wait_s IS NOT NULL;
CREATE INDEX reading_by_sample ON reading (site_id, sample_id);

-- Where a reading stands is kept with its verdict, one row each, instead of being looked for in all decisions and corrections.
ALTER TABLE verdict
	ADD FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id),
	ADD COLUMN superseded boolean NOT NULL DEFAULT false,
	ADD COLUMN decision text,
	ADD COLUMN reason text,
	ADD COLUMN decided_at timestamptz;
ALTER TABLE restatement
	ADD FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id),
	ADD FOREIGN KEY (site_id, from_calibration) REFERENCES calibration (site_id, id),
	ADD FOREIGN KEY (site_id, to_calibration) REFERENCES calibration (site_id, id);
UPDATE verdict v SET decision = d.kind, reason = d.reason, decided_at = d.decided_at
	FROM (SELECT DISTINCT ON (site_id, reading_id) * FROM decision ORDER BY site_id, reading_id, id DESC) d
	WHERE d.site_id = v.site_id AND d.reading_id = v.reading_id;
UPDATE verdict v SET superseded = true FROM reading n LEFT JOIN verdict w ON w.site_id = n.site_id AND w.reading_id = n.id
	WHERE n.site_id = v.site_id AND n.supersedes = v.reading_id AND w.decision IS DISTINCT FROM 'undo';

CREATE FUNCTION reading_supersedes() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	UPDATE verdict SET superseded = true WHERE site_id = NEW.site_id AND reading_id = NEW.supersedes;
	RETURN NULL;
END $$;
CREATE TRIGGER reading_supersedes AFTER INSERT ON reading FOR EACH ROW WHEN (NEW.supersedes IS NOT NULL) EXECUTE FUNCTION reading_supersedes();

CREATE FUNCTION decision_counts() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	UPDATE verdict SET decision = NEW.kind, reason = NEW.reason, decided_at = NEW.decided_at
		WHERE site_id = NEW.site_id AND reading_id = NEW.reading_id;
	IF NOT FOUND THEN
		RAISE EXCEPTION 'reading % has not been judged yet', NEW.reading_id;
	END IF;
	-- A correction that is taken back no longer stands for what it corrected, until it is restored.
	UPDATE verdict v SET superseded = EXISTS (SELECT 1 FROM reading n JOIN verdict w ON w.site_id = n.site_id AND w.reading_id = n.id
			WHERE n.site_id = v.site_id AND n.supersedes = v.reading_id AND w.decision IS DISTINCT FROM 'undo')
		FROM reading r WHERE r.site_id = NEW.site_id AND r.id = NEW.reading_id AND v.site_id = r.site_id AND v.reading_id = r.supersedes;
	RETURN NULL;
END $$;
CREATE TRIGGER decision_counts AFTER INSERT ON decision FOR EACH ROW EXECUTE FUNCTION decision_counts();

DROP VIEW reading_judged;
CREATE VIEW reading_judged AS
SELECT r.*, s.code AS station, s.name AS station_name, s.kind AS station_kind, i.code AS instrument, i.name AS instrument_name,
	v.flag, v.check_code, v.cause, v.suggested, coalesce(t.u, v.u) AS u, v.said, v.evidence, v.expected,
	v.decision, v.reason, v.decided_at, coalesce(v.superseded, false) AS superseded,
	t.status AS restated_status, CASE WHEN t.status = 'restated' THEN t.value END AS restated, t.error AS restated_error,
	t.provisional AS restated_provisional, t.partial AS restated_partial, t.from_calibration, t.to_calibration,
	t.u_instrument, t.u_standards, t.u_drift
FROM reading r
JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
LEFT JOIN restatement t ON t.site_id = r.site_id AND t.reading_id = r.id;

-- Where each reading stands, with nothing looked up: what pages, counts and exports are picked from.
CREATE VIEW reading_standing AS
SELECT r.*, v.flag, v.cause, v.decision, v.superseded
FROM reading r JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id;

-- What waits for a person is few among many.
DROP INDEX verdict_doubtful;
CREATE INDEX verdict_open ON verdict (site_id, reading_id) WHERE flag IN (3, 4) AND NOT superseded AND (decision IS NULL OR decision IN ('restore', 'retest'));
CREATE INDEX verdict_retest ON verdict (site_id, reading_id) WHERE decision = 'retest';

-- Events are corrected and withdrawn as readings are: by a further row.
ALTER TABLE event
	DROP COLUMN withdrawn_by,
	ADD COLUMN supersedes bigint,
	ADD COLUMN device uuid DEFAULT nullif(current_setting('cordwain.device', true), '')::uuid,
	ADD FOREIGN KEY (site_id, supersedes) REFERENCES event (site_id, id);
CREATE INDEX event_supersedes ON event (site_id, supersedes) WHERE supersedes IS NOT NULL;
CREATE INDEX event_by_time ON event (site_id, at, id);
CREATE TABLE event_withdrawal (
	site_id    integer NOT NULL,
	id         bigint NOT NULL DEFAULT nextval('row_id'),
	event_id   bigint NOT NULL,
	withdrawn  boolean NOT NULL,
	reason     text NOT NULL DEFAULT '',
	who        text NOT NULL DEFAULT 'grower',
	at         timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, event_id) REFERENCES event (site_id, id)
);
CREATE INDEX event_withdrawal_by_event ON event_withdrawal (site_id, event_id, id DESC);
CREATE VIEW event_current AS
SELECT e.*, s.code AS station FROM event e JOIN station s ON s.site_id = e.site_id AND s.id = e.station_id
WHERE NOT EXISTS (SELECT 1 FROM event n WHERE n.site_id = e.site_id AND n.supersedes = e.id)
	AND NOT coalesce((SELECT w.withdrawn FROM event_withdrawal w WHERE w.site_id = e.site_id AND w.event_id = e.id ORDER BY w.id DESC LIMIT 1), false);

ALTER TABLE audit ADD COLUMN device uuid DEFAULT nullif(current_setting('cordwain.device', true), '')::uuid;
DROP TABLE import;

-- Whatever is only added to cannot be emptied either.
CREATE TRIGGER event_append_only BEFORE UPDATE OR DELETE ON event FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER event_withdrawal_append_only BEFORE UPDATE OR DELETE ON event_withdrawal FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER answered_append_only BEFORE UPDATE OR DELETE ON answered FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER sample_append_only BEFORE UPDATE OR DELETE ON sample FOR EACH ROW EXECUTE FUNCTION refuse_change();
DO $$
DECLARE name text;
BEGIN
	FOREACH name IN ARRAY ARRAY['answered', 'sample', 'reading', 'reading_everywhere', 'decision', 'event', 'event_withdrawal', 'calibration',
		'calibration_point', 'calibration_withdrawal', 'probe_event', 'water_report', 'jug_titration', 'audit'] LOOP
		EXECUTE format('CREATE TRIGGER %I BEFORE TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name || '_not_emptied', name);
	END LOOP;
END $$;

-- What is kept of the line and of the probes between two requests names the version it was read at. A number is used once, even
-- where its change was taken back.
ALTER TABLE judging ADD COLUMN memory_version bigint NOT NULL DEFAULT nextval('row_id');
ALTER TABLE site ADD COLUMN line_version bigint NOT NULL DEFAULT nextval('row_id'), ADD COLUMN probe_version bigint NOT NULL DEFAULT nextval('row_id');
CREATE FUNCTION line_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	UPDATE site SET line_version = nextval('row_id') WHERE id = NEW.site_id;
	RETURN NULL;
END $$;
CREATE FUNCTION probe_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	UPDATE site SET probe_version = nextval('row_id') WHERE id = NEW.site_id;
	RETURN NULL;
END $$;
CREATE FUNCTION site_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	NEW.line_version := nextval('row_id');
	RETURN NEW;
END $$;
CREATE TRIGGER site_changed BEFORE UPDATE OF name, timezone, units, settings ON site FOR EACH ROW EXECUTE FUNCTION site_changed();
CREATE TRIGGER line_changed AFTER INSERT OR UPDATE ON system FOR EACH ROW EXECUTE FUNCTION line_changed();
CREATE TRIGGER line_changed AFTER INSERT OR UPDATE ON station FOR EACH ROW EXECUTE FUNCTION line_changed();
CREATE TRIGGER line_changed AFTER INSERT OR UPDATE ON instrument FOR EACH ROW EXECUTE FUNCTION line_changed();
CREATE TRIGGER probe_changed AFTER INSERT OR UPDATE ON instrument FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT OR UPDATE ON probe FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT ON probe_event FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT OR UPDATE ON standard_lot FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT ON calibration FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT ON calibration_point FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE TRIGGER probe_changed AFTER INSERT ON calibration_withdrawal FOR EACH ROW EXECUTE FUNCTION probe_changed();
CREATE FUNCTION event_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	UPDATE judging SET memory_version = nextval('row_id') WHERE site_id IN (SELECT site_id FROM fresh);
	RETURN NULL;
END $$;
CREATE TRIGGER event_changed AFTER INSERT ON event REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION event_changed();
CREATE TRIGGER event_changed AFTER INSERT ON event_withdrawal REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION event_changed();
