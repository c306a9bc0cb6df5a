-- Steps that were taken on advice, one at a time: how the watering stood before, how it was set, and what was expected of the drain.
CREATE TABLE irrigation_step (
	site_id       integer NOT NULL REFERENCES site,
	id            bigint NOT NULL DEFAULT nextval('row_id'),
	system_id     bigint NOT NULL,
	at            timestamptz NOT NULL,
	kind          text NOT NULL CHECK (kind IN ('more-runs', 'longer-runs', 'weaker-feed', 'flush', 'fewer-runs')),
	runs_a_day    integer NOT NULL CHECK (runs_a_day BETWEEN 1 AND 500),
	minutes       double precision CHECK (minutes > 0 AND minutes <= 1440),
	feed_us_cm    double precision NOT NULL CHECK (feed_us_cm >= 0 AND feed_us_cm < 'infinity'),
	flush_l       double precision CHECK (flush_l > 0 AND flush_l < 'infinity'),
	look_at       timestamptz NOT NULL,
	-- Drain in µS/cm and share that runs off, each with its bounds.
	expect        jsonb NOT NULL,
	-- The watering of the system before, and as it was set.
	watering_before jsonb,
	watering_after  jsonb,
	entered_by    text NOT NULL DEFAULT 'grower',
	entered_at    timestamptz NOT NULL DEFAULT now(),
	withdrawn_at  timestamptz,
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, system_id) REFERENCES system (site_id, id)
);
CREATE INDEX irrigation_step_by_system ON irrigation_step (site_id, system_id, at);
CREATE TRIGGER irrigation_step_not_emptied BEFORE TRUNCATE ON irrigation_step FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
