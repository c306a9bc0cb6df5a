-- How a system is watered: drippers, bags, plants, and how far its drain may stand above its feed.
ALTER TABLE system ADD COLUMN watering jsonb;

-- An irrigation that was measured: what the drippers gave and what ran off, as it was typed. What was wrong is taken back and logged anew.
CREATE TABLE irrigation (
	site_id       integer NOT NULL REFERENCES site,
	id            bigint NOT NULL DEFAULT nextval('row_id'),
	system_id     bigint NOT NULL,
	at            timestamptz NOT NULL,
	minutes       double precision CHECK (minutes > 0 AND minutes <= 1440),
	first_drain_min double precision CHECK (first_drain_min >= 0 AND first_drain_min <= 1440),
	applied_l     double precision CHECK (applied_l > 0 AND applied_l < 'infinity'),
	-- mL in each cup under a dripper, and in each tray under a bag.
	applied_cups  jsonb NOT NULL DEFAULT '[]',
	drained_l     double precision CHECK (drained_l >= 0 AND drained_l < 'infinity'),
	drained_cups  jsonb NOT NULL DEFAULT '[]',
	note          text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
	entered_by    text NOT NULL DEFAULT 'grower',
	entered_at    timestamptz NOT NULL DEFAULT now(),
	withdrawn_at  timestamptz,
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, system_id) REFERENCES system (site_id, id)
);
CREATE INDEX irrigation_by_system ON irrigation (site_id, system_id, at DESC);
CREATE TRIGGER irrigation_not_emptied BEFORE TRUNCATE ON irrigation FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
