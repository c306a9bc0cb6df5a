-- Water and mix: laboratory reports, products, jug titrations, batches.

-- A report as the laboratory gave it. Append-only: a correction is a new report.
CREATE TABLE water_report (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	station_id  bigint NOT NULL,
	at          timestamptz NOT NULL,
	lab         text NOT NULL DEFAULT '',
	-- mg/L by ion: {"ca_mg_l": 100, …}
	ions        jsonb NOT NULL,
	ec_us_cm    double precision CHECK (ec_us_cm >= 0),
	ph          double precision CHECK (ph BETWEEN 0 AND 14),
	note        text NOT NULL DEFAULT '',
	entered_by  text NOT NULL DEFAULT 'grower',
	entered_at  timestamptz NOT NULL DEFAULT now(),
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);
CREATE TRIGGER water_report_append_only BEFORE UPDATE OR DELETE ON water_report FOR EACH ROW EXECUTE FUNCTION refuse_change();

CREATE TABLE product (
	site_id        integer NOT NULL REFERENCES site,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	kind           text NOT NULL CHECK (kind IN ('nutrient', 'acid', 'base')),
	-- Of an acid: nitric, phosphoric, …; empty when the label does not say.
	chemical       text NOT NULL DEFAULT '',
	percent_ww     double precision CHECK (percent_ww > 0 AND percent_ww <= 100),
	density_g_ml   double precision CHECK (density_g_ml BETWEEN 0.7 AND 2.5),
	-- By a jug titration, where the label says nothing.
	jug_meq_ml     double precision CHECK (jug_meq_ml > 0),
	-- Of a nutrient: parts (A and B), the label's rate, and the EC that 1 mL/L of each part adds.
	parts          smallint NOT NULL DEFAULT 1 CHECK (parts BETWEEN 1 AND 6),
	rate_ml_l      double precision CHECK (rate_ml_l > 0),
	gain_us_cm     double precision CHECK (gain_us_cm > 0),
	stock_ml       double precision CHECK (stock_ml >= 0),
	opened         date,
	note           text NOT NULL DEFAULT '',
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, name)
);

-- A mixing from empty to plants: the plan as it was made and what each step showed.
CREATE TABLE batch (
	site_id      integer NOT NULL REFERENCES site,
	id           bigint NOT NULL DEFAULT nextval('row_id'),
	station_id   bigint NOT NULL,
	started_at   timestamptz NOT NULL DEFAULT now(),
	finished_at  timestamptz,
	name         text NOT NULL DEFAULT '',
	plan         jsonb NOT NULL,
	log          jsonb NOT NULL DEFAULT '[]',
	entered_by   text NOT NULL DEFAULT 'grower',
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);
