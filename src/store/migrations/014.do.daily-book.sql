-- What the daily book keeps beside readings.

-- Photos and files beside readings, events and notes. What was attached can be taken away: its bytes are gone then, that it was there stays.
CREATE TABLE attachment (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	reading_id  bigint,
	event_id    bigint,
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
	type        text NOT NULL CHECK (type IN ('image/jpeg', 'image/png', 'application/pdf', 'text/plain', 'text/csv')),
	-- Without what cameras write into a picture: place, owner, serial numbers.
	bytes       bytea CHECK (length(bytes) BETWEEN 1 AND 2097152),
	sha256      text NOT NULL CHECK (sha256 ~ '^[0-9a-f]{64}$'),
	entered_by  text NOT NULL DEFAULT 'grower',
	entered_at  timestamptz NOT NULL DEFAULT now(),
	removed_at  timestamptz,
	PRIMARY KEY (site_id, id),
	CHECK ((reading_id IS NULL) <> (event_id IS NULL)),
	CHECK ((bytes IS NULL) = (removed_at IS NOT NULL)),
	FOREIGN KEY (site_id, reading_id) REFERENCES reading (site_id, id),
	FOREIGN KEY (site_id, event_id) REFERENCES event (site_id, id)
);
CREATE INDEX attachment_of_reading ON attachment (site_id, reading_id) WHERE reading_id IS NOT NULL;
CREATE INDEX attachment_of_event ON attachment (site_id, event_id) WHERE event_id IS NOT NULL;

-- An empty bottle of a standard is retired: lists forget it, the calibrations made with it keep it.
ALTER TABLE standard_lot ADD COLUMN retired_at timestamptz;

-- How a height on the dipstick becomes litres, as it was typed: `60 x 40`, `round 50`, or a table of centimetres and litres.
ALTER TABLE station ADD COLUMN shape text NOT NULL DEFAULT '' CHECK (length(shape) <= 1000);

-- The air around the plants is read beside their water.
ALTER TABLE reading DROP CONSTRAINT reading_quantity_check;
ALTER TABLE reading ADD CONSTRAINT reading_quantity_check
	CHECK (quantity IN ('ph','ec','tds','temp','level','volume','do','orp','mv','no3','k','ca','alkalinity','hardness','air_temp','humidity'));
