-- The bench: waits and sensitivity of a site, protocol and rhythm of a station, rounds, and what answered a retest.

-- {"waits": {"ph": 30, "phLowMineral": 180, "ec": 8}, "sensitivity": "usual"}; absent means the usual.
ALTER TABLE site ADD COLUMN settings jsonb NOT NULL DEFAULT '{}';

ALTER TABLE station
	-- [{"code": "run", "text": "Run the hose for two minutes"}, …]; null takes the usual one of its kind.
	ADD COLUMN protocol jsonb,
	-- {"ph": "daily", "ec": "weekly"}; null takes the usual one of its kind.
	ADD COLUMN rhythm jsonb;

CREATE TABLE round (
	site_id      integer NOT NULL REFERENCES site,
	id           bigint NOT NULL DEFAULT nextval('row_id'),
	started_at   timestamptz NOT NULL DEFAULT now(),
	started_by   text NOT NULL DEFAULT 'grower',
	finished_at  timestamptz,
	-- [{"station": "pond", "reason": "pump off"}, …]
	left_out     jsonb NOT NULL DEFAULT '[]',
	PRIMARY KEY (site_id, id)
);
CREATE INDEX round_by_time ON round (site_id, started_at DESC);

-- Samples taken on a round; late: entered after it was finished.
CREATE TABLE round_sample (
	site_id    integer NOT NULL,
	round_id   bigint NOT NULL,
	sample_id  bigint NOT NULL,
	late       boolean NOT NULL DEFAULT false,
	PRIMARY KEY (site_id, round_id, sample_id),
	FOREIGN KEY (site_id, round_id) REFERENCES round (site_id, id)
);

-- Samples that answered the request to read again. More than one may: all are kept.
CREATE TABLE retest_answer (
	site_id     integer NOT NULL,
	reading_id  bigint NOT NULL,
	sample_id   bigint NOT NULL,
	at          timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, reading_id, sample_id),
	FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id)
);
