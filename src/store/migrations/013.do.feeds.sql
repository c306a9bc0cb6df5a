-- A feed may be of several products: a plan names each pouring, a recipe each part. Products say what is in them, and are retired.

ALTER TABLE product
	ADD COLUMN analysis   text NOT NULL DEFAULT '' CHECK (length(analysis) <= 2000),
	ADD COLUMN retired_at timestamptz;

CREATE TABLE recipe_part (
	site_id    integer NOT NULL,
	recipe_id  bigint NOT NULL,
	-- The order in which they are poured, from 0.
	position   integer NOT NULL CHECK (position BETWEEN 0 AND 19),
	product_id bigint NOT NULL,
	-- mL or g of each bottle for each litre at full strength; empty: the label's own rate.
	per_l      double precision CHECK (per_l > 0 AND per_l <= 100),
	-- Whether it follows strength and target, or keeps its rate.
	scales     boolean NOT NULL DEFAULT true,
	-- Minutes to stir and wait before the next.
	wait_min   smallint NOT NULL DEFAULT 0 CHECK (wait_min BETWEEN 0 AND 240),
	-- Stock tank of an injector, A to F; empty: by its bottle or by what is in it.
	stock_tank text NOT NULL DEFAULT '' CHECK (stock_tank ~ '^[A-F]?$'),
	PRIMARY KEY (site_id, recipe_id, position),
	FOREIGN KEY (site_id, recipe_id) REFERENCES recipe (site_id, id),
	FOREIGN KEY (site_id, product_id) REFERENCES product (site_id, id)
);
INSERT INTO recipe_part (site_id, recipe_id, position, product_id) SELECT site_id, id, 0, product_id FROM recipe;
ALTER TABLE recipe
	DROP COLUMN product_id,
	-- Target EC by stage of the plants, in µS/cm: {"seedling": 900, …}; the recipe's own target is that of full growth.
	ADD COLUMN stages   jsonb NOT NULL DEFAULT '{}',
	-- Parts of feed for one of each stock; empty where it is mixed in the tank.
	ADD COLUMN injector double precision CHECK (injector BETWEEN 10 AND 500);

UPDATE batch SET plan = (plan - 'product' - 'mlPerL' - 'unit' - 'parts') || jsonb_build_object('pours', (
	SELECT jsonb_agg(jsonb_build_object(
		'product', plan ->> 'product',
		'bottle', CASE WHEN (plan ->> 'parts')::integer > 1 THEN chr(64 + n) ELSE '' END,
		'perL', (plan ->> 'mlPerL')::double precision,
		'unit', coalesce(plan ->> 'unit', 'mL'),
		'waitMin', 0,
		'scales', true) ORDER BY n)
	FROM generate_series(1, (plan ->> 'parts')::integer) AS n))
WHERE plan ? 'mlPerL';
