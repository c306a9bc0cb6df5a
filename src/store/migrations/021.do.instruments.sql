-- What else a grower holds in the hand than pens for pH and EC.
ALTER TABLE instrument DROP CONSTRAINT instrument_kind_check;
ALTER TABLE instrument ADD CONSTRAINT instrument_kind_check
	CHECK (kind IN ('ph','ec','combined','drop_kit','ion','oxygen','orp','substrate','air','sensor_node'));
