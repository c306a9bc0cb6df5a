-- What an instrument was until it was changed, and of which kind and system a station was. Without a kind: it is as it is, since what was
-- changed of it before this was judged anew as if it had always been so.
ALTER TABLE setup_version
	ADD COLUMN instrument_id bigint,
	ADD COLUMN kind          text,
	ADD COLUMN of_system_id  bigint,
	-- Scale, compensation, leaflet, interval.
	ADD COLUMN instrument    jsonb,
	DROP CONSTRAINT setup_version_check,
	ADD CHECK (num_nonnulls(station_id, system_id, instrument_id) = 1),
	ADD CHECK ((instrument_id IS NULL) = (instrument IS NULL)),
	ADD FOREIGN KEY (site_id, instrument_id) REFERENCES instrument (site_id, id),
	ADD FOREIGN KEY (site_id, of_system_id) REFERENCES system (site_id, id);
