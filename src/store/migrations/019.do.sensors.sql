-- Sensor nodes: what they send is kept as narrow rows by month, judged as it arrives, and rolled up in the same transaction.

-- What substrate shows, and what flows, is read beside the water.
ALTER TABLE reading DROP CONSTRAINT reading_quantity_check;
ALTER TABLE reading ADD CONSTRAINT reading_quantity_check
	CHECK (quantity IN ('ph','ec','tds','temp','level','volume','do','orp','mv','no3','k','ca','alkalinity','hardness','air_temp','humidity','moisture','substrate_ec','flow'));

CREATE TABLE node (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	code           text NOT NULL CHECK (length(code) BETWEEN 1 AND 200),
	name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	-- Where it stands, and the instrument that it is where it names no probe.
	station_id     bigint NOT NULL,
	instrument_id  bigint NOT NULL,
	quantities     text[] NOT NULL DEFAULT '{}',
	-- SHA-256 of the token of 256 bits from chance; null: none, or revoked.
	token_sha256   bytea CHECK (length(token_sha256) = 32),
	token_made_at  timestamptz,
	-- Samples older than so many days may go; null: they are kept. Rollups stay.
	keep_days      integer CHECK (keep_days BETWEEN 1 AND 36500),
	heard_at       timestamptz,
	retired_at     timestamptz,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, code),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);
CREATE UNIQUE INDEX node_by_token ON node (token_sha256) WHERE token_sha256 IS NOT NULL;

-- What one probe shows of one quantity at one station. A probe belongs to one node.
CREATE SEQUENCE series_number AS integer;
CREATE TABLE series (
	site_id        integer NOT NULL REFERENCES site,
	id             integer NOT NULL DEFAULT nextval('series_number'),
	node_id        bigint NOT NULL,
	station_id     bigint NOT NULL,
	instrument_id  bigint NOT NULL,
	quantity       text NOT NULL CHECK (quantity IN ('ph','ec','temp','level','volume','do','orp','mv','no3','k','ca','alkalinity','hardness','air_temp','humidity','moisture','substrate_ec','flow')),
	-- Its newest sample, how often it is sampled, and from when on samples are still there.
	newest_at      timestamptz,
	usual_ms       double precision NOT NULL DEFAULT 0,
	raw_from       timestamptz NOT NULL DEFAULT '-infinity',
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, station_id, instrument_id, quantity),
	FOREIGN KEY (site_id, node_id) REFERENCES node (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);
CREATE INDEX series_by_node ON series (site_id, node_id);

-- Canonical values. Cause, flag and decision are derived (src/core/series/findings.ts has the numbers); time and value never change.
CREATE TABLE sensor_sample (
	site_id    integer NOT NULL,
	series_id  integer NOT NULL,
	at         timestamptz NOT NULL,
	value      double precision NOT NULL CHECK (value > '-infinity' AND value < 'infinity'),
	cause      smallint NOT NULL DEFAULT 0,
	flag       smallint NOT NULL CHECK (flag IN (1, 2, 3, 4)),
	decision   smallint NOT NULL DEFAULT 0 CHECK (decision BETWEEN 0 AND 2),
	PRIMARY KEY (site_id, series_id, at)
) PARTITION BY RANGE (at);
CREATE INDEX sensor_sample_by_time ON sensor_sample USING brin (at);

CREATE FUNCTION sensor_sample_keeps() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	-- What has come of age goes by retention alone, which says so.
	IF TG_OP = 'DELETE' AND current_setting('cordwain.retention', true) = 'on' THEN
		RETURN OLD;
	END IF;
	RAISE EXCEPTION 'samples are append-only' USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER sensor_sample_append_only BEFORE DELETE OR UPDATE OF site_id, series_id, at, value ON sensor_sample
	FOR EACH ROW EXECUTE FUNCTION sensor_sample_keeps();
CREATE TRIGGER sensor_sample_not_emptied BEFORE TRUNCATE ON sensor_sample FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- A partition for the month that a time lies in; made ahead by a job, and for a backlog when it comes.
CREATE FUNCTION make_sample_month(month date) RETURNS void LANGUAGE plpgsql AS $$
DECLARE name text := 'sensor_sample_' || to_char(month, 'YYYY_MM');
BEGIN
	PERFORM pg_advisory_xact_lock(7402, 0);
	IF to_regclass(name) IS NULL THEN
		EXECUTE format('CREATE TABLE %I PARTITION OF sensor_sample FOR VALUES FROM (%L) TO (%L)', name,
			(date_trunc('month', month::timestamp) AT TIME ZONE 'UTC'), ((date_trunc('month', month::timestamp) + interval '1 month') AT TIME ZONE 'UTC'));
	END IF;
END $$;

-- Least, greatest, sum and count by 5 minutes, hour and day of the site's zone: of all samples, and of those that tell of their water.
CREATE TABLE rollup (
	site_id        integer NOT NULL,
	series_id      integer NOT NULL,
	step           smallint NOT NULL CHECK (step IN (5, 60, 1440)),
	at             timestamptz NOT NULL,
	least          double precision NOT NULL,
	greatest       double precision NOT NULL,
	total          double precision NOT NULL,
	count          integer NOT NULL CHECK (count > 0),
	worst          smallint NOT NULL,
	good_least     double precision NOT NULL,
	good_greatest  double precision NOT NULL,
	good_total     double precision NOT NULL,
	good_count     integer NOT NULL CHECK (good_count BETWEEN 0 AND count),
	PRIMARY KEY (site_id, series_id, step, at)
);

-- What the checks remember of a probe before its first sample at or after a time; the newest stands at infinity.
CREATE TABLE probe_memory (
	site_id        integer NOT NULL,
	station_id     bigint NOT NULL,
	instrument_id  bigint NOT NULL,
	at             timestamptz NOT NULL,
	memory         text NOT NULL,
	PRIMARY KEY (site_id, station_id, instrument_id, at),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id)
);

-- Doubtful samples of one series and cause that follow each other: derived, and made anew with what they are made of.
CREATE TABLE sensor_episode (
	site_id    integer NOT NULL,
	id         bigint NOT NULL DEFAULT nextval('row_id'),
	series_id  integer NOT NULL,
	cause      smallint NOT NULL,
	flag       smallint NOT NULL,
	since      timestamptz NOT NULL,
	until      timestamptz NOT NULL,
	samples    integer NOT NULL,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, series_id, since, cause),
	FOREIGN KEY (site_id, series_id) REFERENCES series (site_id, id)
);
CREATE INDEX sensor_episode_by_end ON sensor_episode (site_id, series_id, until);

-- What a person decided about a stretch of a series. The newest counts where they overlap.
CREATE TABLE sensor_decision (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	series_id   integer NOT NULL,
	since       timestamptz NOT NULL,
	until       timestamptz NOT NULL CHECK (until >= since),
	kind        text NOT NULL CHECK (kind IN ('keep', 'discard', 'undo')),
	reason      text NOT NULL DEFAULT '',
	decided_by  text NOT NULL DEFAULT 'grower',
	decided_at  timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, series_id) REFERENCES series (site_id, id)
);
CREATE INDEX sensor_decision_by_series ON sensor_decision (site_id, series_id, until);
CREATE TRIGGER sensor_decision_append_only BEFORE UPDATE OR DELETE ON sensor_decision FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER sensor_decision_not_emptied BEFORE TRUNCATE ON sensor_decision FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- From when on the streams of a station are to be judged again: something of the past was written there after them.
CREATE TABLE stream_due (
	site_id     integer NOT NULL,
	station_id  bigint NOT NULL,
	at          timestamptz NOT NULL,
	-- Another with each thing that is written: what comes while it is judged is not taken for judged.
	version     bigint NOT NULL DEFAULT nextval('row_id'),
	PRIMARY KEY (site_id, station_id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);
-- Events disturb from a quarter of an hour before they are noted; hand readings are held against what was sent just before them.
CREATE FUNCTION streams_become_due() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	INSERT INTO stream_due (site_id, station_id, at)
	SELECT f.site_id, f.station_id, min(f.at) - interval '15 minutes' FROM fresh f
	WHERE EXISTS (SELECT 1 FROM series s WHERE s.site_id = f.site_id AND s.station_id = f.station_id AND s.newest_at >= f.at - interval '15 minutes')
	GROUP BY f.site_id, f.station_id
	ON CONFLICT (site_id, station_id) DO UPDATE SET at = least(stream_due.at, EXCLUDED.at), version = EXCLUDED.version;
	RETURN NULL;
END $$;
CREATE TRIGGER event_beside_streams AFTER INSERT ON event REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION streams_become_due();
CREATE TRIGGER reading_beside_streams AFTER INSERT ON reading REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION streams_become_due();
-- What is decided or withdrawn afterwards changes what stood beside them.
CREATE FUNCTION streams_become_due_of() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF TG_TABLE_NAME = 'event_withdrawal' THEN
		INSERT INTO stream_due (site_id, station_id, at)
		SELECT e.site_id, e.station_id, min(e.at) - interval '15 minutes' FROM fresh f JOIN event e ON e.site_id = f.site_id AND e.id = f.event_id
		WHERE EXISTS (SELECT 1 FROM series s WHERE s.site_id = e.site_id AND s.station_id = e.station_id AND s.newest_at >= e.at - interval '15 minutes')
		GROUP BY e.site_id, e.station_id
		ON CONFLICT (site_id, station_id) DO UPDATE SET at = least(stream_due.at, EXCLUDED.at), version = EXCLUDED.version;
	ELSE
		INSERT INTO stream_due (site_id, station_id, at)
		SELECT r.site_id, r.station_id, min(r.at) - interval '15 minutes' FROM fresh f JOIN reading r ON r.site_id = f.site_id AND r.id = f.reading_id
		WHERE EXISTS (SELECT 1 FROM series s WHERE s.site_id = r.site_id AND s.station_id = r.station_id AND s.newest_at >= r.at - interval '15 minutes')
		GROUP BY r.site_id, r.station_id
		ON CONFLICT (site_id, station_id) DO UPDATE SET at = least(stream_due.at, EXCLUDED.at), version = EXCLUDED.version;
	END IF;
	RETURN NULL;
END $$;
CREATE TRIGGER event_withdrawal_beside_streams AFTER INSERT ON event_withdrawal REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION streams_become_due_of();
CREATE TRIGGER decision_beside_streams AFTER INSERT ON decision REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION streams_become_due_of();
