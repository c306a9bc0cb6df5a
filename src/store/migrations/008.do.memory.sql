-- What the checks remember of a station after its last reading of a day: derived, and made anew by judging again.
CREATE TABLE station_memory (
	site_id     integer NOT NULL,
	station_id  bigint NOT NULL,
	day         date NOT NULL,
	at          timestamptz NOT NULL,
	engine      integer NOT NULL,
	state       jsonb NOT NULL,
	PRIMARY KEY (site_id, station_id, day),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);
-- From when on readings are to be judged again, and by which engine all of them have been.
CREATE TABLE judging (
	site_id     integer PRIMARY KEY REFERENCES site,
	engine      integer NOT NULL,
	due_from    timestamptz
);
-- What was judged before this memory was kept is gone through once more.
INSERT INTO judging (site_id, engine) SELECT id, 0 FROM site;
