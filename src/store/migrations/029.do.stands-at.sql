-- A device that several share stands at one site, whatever else whoever put it up may come to.
ALTER TABLE sign_in ADD COLUMN stands_at integer REFERENCES site;
