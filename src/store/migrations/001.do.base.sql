-- The base: one site's line of stations, its instruments, readings and what is thought of them.
-- Every key begins with site_id, so that the database can be split by site later (docs/scaling.md).

CREATE SEQUENCE row_id AS bigint;

CREATE TABLE site (
	id          integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	timezone    text NOT NULL,
	-- How values are shown: {"ec": "mS/cm", "temp": "C", "volume": "L"}
	units       jsonb NOT NULL DEFAULT '{}',
	created_at  timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE system (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	code        text NOT NULL CHECK (length(code) BETWEEN 1 AND 200),
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	kind        text NOT NULL CHECK (kind IN ('raft_pond','channel','bucket','passive_tank','drip_to_drain','drip_recirculating','tower','flood_table')),
	volume_l    double precision CHECK (volume_l > 0 AND volume_l < 'infinity'),
	medium      text NOT NULL DEFAULT '',
	crop        text NOT NULL DEFAULT '',
	stage       text NOT NULL DEFAULT '',
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, code)
);

CREATE TABLE station (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	code        text NOT NULL CHECK (length(code) BETWEEN 1 AND 200),
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	kind        text NOT NULL CHECK (kind IN ('source','blend','mix','reservoir','root_zone','drain','standard')),
	system_id   bigint,
	-- Order along the line, and the stations whose water runs into this one.
	position    integer NOT NULL DEFAULT 0,
	fed_by      text[] NOT NULL DEFAULT '{}',
	volume_l    double precision CHECK (volume_l > 0 AND volume_l < 'infinity'),
	-- Target ranges in canonical units: {"ph": [5.5, 6.5], "ec": [1200, 1800]}
	ranges      jsonb NOT NULL DEFAULT '{}',
	note        text NOT NULL DEFAULT '',
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, code),
	FOREIGN KEY (site_id, system_id) REFERENCES system (site_id, id)
);

CREATE TABLE instrument (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	code           text NOT NULL CHECK (length(code) BETWEEN 1 AND 200),
	name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	kind           text NOT NULL CHECK (kind IN ('ph','ec','combined','drop_kit','sensor_node')),
	-- {"ph": {"resolution": 0.01, "accuracy": 0.1}, "ec": {"resolution": 10, "accuracyPct": 2}}
	quantities     jsonb NOT NULL DEFAULT '{}',
	ppm_scale      smallint CHECK (ppm_scale IN (500, 640, 700)),
	compensates    boolean NOT NULL DEFAULT true,
	alpha_pct      double precision NOT NULL DEFAULT 2 CHECK (alpha_pct BETWEEN 0 AND 3),
	continuous     boolean NOT NULL DEFAULT false,
	details        jsonb NOT NULL DEFAULT '{}',
	retired_at     timestamptz,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, code)
);

-- One quantity of one sample, as it was entered. Append-only: a correction is a new row that names the old one.
CREATE TABLE reading (
	site_id        integer NOT NULL,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	sample_id      bigint NOT NULL,
	at             timestamptz NOT NULL,
	station_id     bigint NOT NULL,
	instrument_id  bigint,
	quantity       text NOT NULL CHECK (quantity IN ('ph','ec','tds','temp','level','volume','do','orp','mv','no3','k','ca','alkalinity','hardness')),
	-- The digits and unit as typed, and the keystrokes where they differ.
	digits         text NOT NULL CHECK (length(digits) BETWEEN 1 AND 100),
	unit_text      text NOT NULL,
	unit           text NOT NULL,
	typed          text,
	-- Canonical value (pH, µS/cm at 25 °C, °C, L, mm, mg/L, mV) and half width of an interval.
	value          double precision NOT NULL CHECK (value > '-infinity' AND value < 'infinity'),
	half_width     double precision NOT NULL DEFAULT 0 CHECK (half_width >= 0 AND half_width < 'infinity'),
	temp_c         double precision,
	wait_s         double precision CHECK (wait_s >= 0),
	note           text NOT NULL DEFAULT '',
	extra          jsonb,
	supersedes     bigint,
	source         text NOT NULL,
	entered_by     text NOT NULL DEFAULT 'grower',
	entered_at     timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
) PARTITION BY LIST (site_id);
CREATE TABLE reading_everywhere PARTITION OF reading DEFAULT;
CREATE INDEX reading_by_station ON reading (site_id, station_id, quantity, at DESC);
CREATE INDEX reading_by_time ON reading (site_id, at DESC, id DESC);
CREATE INDEX reading_supersedes ON reading (site_id, supersedes) WHERE supersedes IS NOT NULL;
CREATE INDEX reading_by_instrument ON reading (site_id, instrument_id, at);

-- What the checks think of a reading: derived, and made anew by a recheck.
CREATE TABLE verdict (
	site_id     integer NOT NULL,
	reading_id  bigint NOT NULL,
	engine      integer NOT NULL,
	flag        smallint NOT NULL CHECK (flag IN (1, 2, 3, 4, 9)),
	check_code  text NOT NULL DEFAULT '',
	cause       text NOT NULL DEFAULT '',
	suggested   double precision,
	u           double precision NOT NULL,
	message     text NOT NULL DEFAULT '',
	next_step   text NOT NULL DEFAULT '',
	evidence    jsonb,
	expected    double precision,
	PRIMARY KEY (site_id, reading_id)
) PARTITION BY LIST (site_id);
CREATE TABLE verdict_everywhere PARTITION OF verdict DEFAULT;
CREATE INDEX verdict_doubtful ON verdict (site_id, reading_id) WHERE flag IN (3, 4);

-- What a person decided about a reading. Append-only; the newest counts.
CREATE TABLE decision (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	reading_id  bigint NOT NULL,
	kind        text NOT NULL CHECK (kind IN ('keep','discard','undo','restore','retest')),
	reason      text NOT NULL DEFAULT '',
	decided_by  text NOT NULL DEFAULT 'grower',
	decided_at  timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id)
);
CREATE INDEX decision_by_reading ON decision (site_id, reading_id, id DESC);

CREATE TABLE event (
	site_id      integer NOT NULL REFERENCES site,
	id           bigint NOT NULL DEFAULT nextval('row_id'),
	at           timestamptz NOT NULL,
	station_id   bigint NOT NULL,
	kind         text NOT NULL CHECK (kind IN ('water_added','nutrient_added','acid_added','base_added','solution_changed','sampled','probe_cleaned','probe_out','calibrated','irrigated','drained','lights_on','lights_off','note')),
	amount       double precision CHECK (amount >= 0 AND amount < 'infinity'),
	amount_text  text NOT NULL DEFAULT '',
	unit_text    text NOT NULL DEFAULT '',
	product      text NOT NULL DEFAULT '',
	note         text NOT NULL DEFAULT '',
	extra        jsonb,
	withdrawn_by bigint,
	source       text NOT NULL,
	entered_by   text NOT NULL DEFAULT 'grower',
	entered_at   timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);
CREATE INDEX event_by_station ON event (site_id, station_id, at DESC);

CREATE TABLE import (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	format      text NOT NULL,
	file_name   text NOT NULL DEFAULT '',
	state       text NOT NULL CHECK (state IN ('running','done','failed')),
	lines       integer NOT NULL DEFAULT 0,
	stored      integer NOT NULL DEFAULT 0,
	message     text NOT NULL DEFAULT '',
	started_at  timestamptz NOT NULL DEFAULT now(),
	ended_at    timestamptz,
	PRIMARY KEY (site_id, id)
);

CREATE TABLE audit (
	site_id   integer NOT NULL REFERENCES site,
	id        bigint NOT NULL DEFAULT nextval('row_id'),
	at        timestamptz NOT NULL DEFAULT now(),
	who       text NOT NULL,
	what      text NOT NULL,
	subject   text NOT NULL,
	detail    jsonb NOT NULL DEFAULT '{}',
	PRIMARY KEY (site_id, id)
);

-- Originals are never overwritten: the database itself refuses it.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	RAISE EXCEPTION '% is append-only: add a row that supersedes instead', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER reading_append_only BEFORE UPDATE OR DELETE ON reading FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER decision_append_only BEFORE UPDATE OR DELETE ON decision FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER audit_append_only BEFORE UPDATE OR DELETE ON audit FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- Every reading with its verdict and newest decision; 'current' leaves out what was corrected or undone.
CREATE VIEW reading_judged AS
SELECT r.*, s.code AS station, s.name AS station_name, s.kind AS station_kind, i.code AS instrument, i.name AS instrument_name,
	v.flag, v.check_code, v.cause, v.suggested, v.u, v.message, v.next_step, v.evidence, v.expected,
	d.kind AS decision, d.reason, d.decided_at,
	EXISTS (SELECT 1 FROM reading n WHERE n.site_id = r.site_id AND n.supersedes = r.id
		AND COALESCE((SELECT x.kind FROM decision x WHERE x.site_id = n.site_id AND x.reading_id = n.id ORDER BY x.id DESC LIMIT 1), '') <> 'undo') AS superseded
FROM reading r
JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
LEFT JOIN LATERAL (SELECT kind, reason, decided_at FROM decision d WHERE d.site_id = r.site_id AND d.reading_id = r.id ORDER BY d.id DESC LIMIT 1) d ON true;
