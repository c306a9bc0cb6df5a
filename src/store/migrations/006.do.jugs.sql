-- Jug titrations: some litres of a tank's solution, a product by the drop, the pH after each. They teach like doses.

CREATE TABLE jug_titration (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	-- The tank whose solution was in the jug; empty where nobody said.
	station_id  bigint,
	product_id  bigint NOT NULL,
	at          timestamptz NOT NULL,
	litres      double precision NOT NULL CHECK (litres > 0 AND litres <= 20),
	-- [{"ml": 0, "ph": 7.0}, …]: given in all, and the pH after it.
	steps       jsonb NOT NULL,
	entered_by  text NOT NULL DEFAULT 'grower',
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id),
	FOREIGN KEY (site_id, product_id) REFERENCES product (site_id, id)
);
CREATE TRIGGER jug_titration_append_only BEFORE UPDATE OR DELETE ON jug_titration FOR EACH ROW EXECUTE FUNCTION refuse_change();
