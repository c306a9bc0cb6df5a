-- Probes, standards, calibrations, and what they make of past readings.

CREATE TABLE probe (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	instrument_id  bigint NOT NULL,
	quantity       text NOT NULL CHECK (quantity IN ('ph', 'ec')),
	serial         text NOT NULL DEFAULT '',
	in_service     date,
	storage        text NOT NULL DEFAULT 'kcl_3m' CHECK (storage IN ('kcl_3m', 'kcl_other', 'storage_solution', 'buffer_4', 'dry', 'tap', 'pure_water')),
	storage_refilled date,
	note           text NOT NULL DEFAULT '',
	replaced_by    bigint,
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);
CREATE UNIQUE INDEX probe_in_use ON probe (site_id, instrument_id, quantity) WHERE replaced_by IS NULL;

-- A probe's story: what was done to it or happened to it.
CREATE TABLE probe_event (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	instrument_id  bigint NOT NULL,
	quantity       text NOT NULL CHECK (quantity IN ('ph', 'ec')),
	at             timestamptz NOT NULL,
	kind           text NOT NULL CHECK (kind IN ('dropped', 'dried_out', 'cleaned', 'rehydrated', 'stored_wrong', 'new_probe')),
	-- The same water read before and after cleaning tells fouling from drift.
	before_value   double precision,
	after_value    double precision,
	note           text NOT NULL DEFAULT '',
	entered_by     text NOT NULL DEFAULT 'grower',
	entered_at     timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);

CREATE TABLE standard_lot (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	standard    text NOT NULL,
	-- Own table of the bottle, [[°C, value], …]; null takes the standard's.
	own_table   jsonb,
	tolerance   double precision CHECK (tolerance >= 0),
	opened      date,
	expires     date,
	single_use  boolean NOT NULL DEFAULT false,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, name)
);

CREATE TABLE calibration (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	instrument_id  bigint NOT NULL,
	quantity       text NOT NULL CHECK (quantity IN ('ph', 'ec')),
	at             timestamptz NOT NULL,
	kind           text NOT NULL CHECK (kind IN ('check', 'adjust')),
	temp_c         double precision CHECK (temp_c BETWEEN -5 AND 60),
	settle_s       double precision CHECK (settle_s >= 0),
	note           text NOT NULL DEFAULT '',
	doubts         text[] NOT NULL DEFAULT '{}',
	source         text NOT NULL DEFAULT 'typed',
	entered_by     text NOT NULL DEFAULT 'grower',
	entered_at     timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);
CREATE INDEX calibration_by_instrument ON calibration (site_id, instrument_id, quantity, at);

CREATE TABLE calibration_point (
	site_id         integer NOT NULL,
	calibration_id  bigint NOT NULL,
	position        smallint NOT NULL,
	standard        text NOT NULL,
	lot             text NOT NULL DEFAULT '',
	nominal         double precision NOT NULL CHECK (nominal > '-infinity' AND nominal < 'infinity'),
	as_found        double precision CHECK (as_found > '-infinity' AND as_found < 'infinity'),
	as_left         double precision CHECK (as_left > '-infinity' AND as_left < 'infinity'),
	mv              double precision,
	PRIMARY KEY (site_id, calibration_id, position),
	FOREIGN KEY (site_id, calibration_id) REFERENCES calibration (site_id, id)
);

-- Withdrawing a calibration is a row of its own; the calibration stays.
CREATE TABLE calibration_withdrawal (
	site_id         integer NOT NULL,
	id              bigint NOT NULL DEFAULT nextval('row_id'),
	calibration_id  bigint NOT NULL,
	withdrawn       boolean NOT NULL,
	reason          text NOT NULL DEFAULT '',
	who             text NOT NULL DEFAULT 'grower',
	at              timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, calibration_id) REFERENCES calibration (site_id, id)
);

CREATE TRIGGER calibration_append_only BEFORE UPDATE OR DELETE ON calibration FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER calibration_point_append_only BEFORE UPDATE OR DELETE ON calibration_point FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER calibration_withdrawal_append_only BEFORE UPDATE OR DELETE ON calibration_withdrawal FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER probe_event_append_only BEFORE UPDATE OR DELETE ON probe_event FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- What calibrations make of a reading: derived, and made anew whenever one is added, corrected or withdrawn.
CREATE TABLE restatement (
	site_id       integer NOT NULL,
	reading_id    bigint NOT NULL,
	engine        integer NOT NULL,
	status        text NOT NULL,
	value         double precision NOT NULL,
	error         double precision NOT NULL,
	u             double precision NOT NULL,
	u_instrument  double precision NOT NULL,
	u_standards   double precision NOT NULL,
	u_drift       double precision NOT NULL,
	fouling       double precision NOT NULL DEFAULT 0,
	from_calibration bigint,
	to_calibration   bigint,
	provisional   boolean NOT NULL DEFAULT false,
	partial       boolean NOT NULL DEFAULT false,
	PRIMARY KEY (site_id, reading_id)
) PARTITION BY LIST (site_id);
CREATE TABLE restatement_everywhere PARTITION OF restatement DEFAULT;

ALTER TABLE instrument
	ADD COLUMN calibrate_by text NOT NULL DEFAULT 'learned' CHECK (calibrate_by IN ('learned', 'weekly', 'before_use', 'monthly', 'maker')),
	ADD COLUMN maker_days double precision CHECK (maker_days > 0),
	ADD COLUMN remembers_points smallint NOT NULL DEFAULT 2 CHECK (remembers_points BETWEEN 0 AND 5),
	ADD COLUMN shows_mv boolean NOT NULL DEFAULT false,
	ADD COLUMN locks boolean NOT NULL DEFAULT false;

DROP VIEW reading_judged;
CREATE VIEW reading_judged AS
SELECT r.*, s.code AS station, s.name AS station_name, s.kind AS station_kind, i.code AS instrument, i.name AS instrument_name,
	v.flag, v.check_code, v.cause, v.suggested, coalesce(t.u, v.u) AS u, v.message, v.next_step, v.evidence, v.expected,
	d.kind AS decision, d.reason, d.decided_at,
	t.status AS restated_status, CASE WHEN t.status = 'restated' THEN t.value END AS restated, t.error AS restated_error,
	t.provisional AS restated_provisional, t.partial AS restated_partial, t.from_calibration, t.to_calibration,
	t.u_instrument, t.u_standards, t.u_drift,
	EXISTS (SELECT 1 FROM reading n WHERE n.site_id = r.site_id AND n.supersedes = r.id
		AND COALESCE((SELECT x.kind FROM decision x WHERE x.site_id = n.site_id AND x.reading_id = n.id ORDER BY x.id DESC LIMIT 1), '') <> 'undo') AS superseded
FROM reading r
JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
LEFT JOIN restatement t ON t.site_id = r.site_id AND t.reading_id = r.id
LEFT JOIN LATERAL (SELECT kind, reason, decided_at FROM decision d WHERE d.site_id = r.site_id AND d.reading_id = r.id ORDER BY d.id DESC LIMIT 1) d ON true;
