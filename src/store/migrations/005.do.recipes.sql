-- Recipes by name; products as liquid or powder, with the label's own words, how long they keep, and a stock that is counted down.

ALTER TABLE product
	ADD COLUMN unit       text NOT NULL DEFAULT 'mL' CHECK (unit IN ('mL', 'g')),
	ADD COLUMN rate_text  text NOT NULL DEFAULT '' CHECK (length(rate_text) <= 100),
	-- When the stock was counted: what was poured since is taken off.
	ADD COLUMN stock_at   timestamptz,
	ADD COLUMN keeps_days integer CHECK (keeps_days BETWEEN 1 AND 10000),
	ADD COLUMN expires    date;
UPDATE product SET stock_at = now() WHERE stock_ml IS NOT NULL;

CREATE TABLE recipe (
	site_id       integer NOT NULL REFERENCES site,
	id            bigint NOT NULL DEFAULT nextval('row_id'),
	name          text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	product_id    bigint NOT NULL,
	-- The source or blend it is made with; empty where any will do.
	water_id      bigint,
	-- By a target EC, or by the label at a share of its rate.
	target_ec     double precision CHECK (target_ec > 0),
	strength      double precision CHECK (strength > 0 AND strength <= 3),
	target_ph     double precision CHECK (target_ph BETWEEN 3 AND 10),
	ph_first      boolean NOT NULL DEFAULT false,
	note          text NOT NULL DEFAULT '',
	changed_at    timestamptz NOT NULL DEFAULT now(),
	retired       boolean NOT NULL DEFAULT false,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, name),
	CHECK ((target_ec IS NULL) <> (strength IS NULL)),
	FOREIGN KEY (site_id, product_id) REFERENCES product (site_id, id),
	FOREIGN KEY (site_id, water_id) REFERENCES station (site_id, id)
);
