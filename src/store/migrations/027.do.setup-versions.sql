-- What a station or a system was until it was changed: what was judged then is judged by that. A change that was a mistake mended
-- ("it was always so") leaves none.
CREATE TABLE setup_version (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	station_id  bigint,
	system_id   bigint,
	until       timestamptz NOT NULL,
	volume_l    double precision CHECK (volume_l > 0 AND volume_l < 'infinity'),
	-- Of a station.
	ranges      jsonb,
	PRIMARY KEY (site_id, id),
	CHECK (num_nonnulls(station_id, system_id) = 1),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, system_id) REFERENCES system (site_id, id)
);
CREATE INDEX setup_version_of ON setup_version (site_id, until);
CREATE TRIGGER line_changed AFTER INSERT ON setup_version FOR EACH ROW EXECUTE FUNCTION line_changed();

ALTER TABLE setup_version ENABLE ROW LEVEL SECURITY;
CREATE POLICY of_site ON setup_version USING (site_id = (SELECT site_here()));
