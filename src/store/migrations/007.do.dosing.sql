-- How a tank moves its water decides how fast carbon dioxide leaves it and how long what was poured takes to mix.
ALTER TABLE system ADD COLUMN aeration text CHECK (aeration IN ('still', 'stirred', 'falling return', 'air stone'));
-- Empty: as its system, or as its kind is usually moved; the usual wait; the usual limits of pH that a dose must not pass.
ALTER TABLE station ADD COLUMN aeration text CHECK (aeration IN ('still', 'stirred', 'falling return', 'air stone'));
ALTER TABLE station ADD COLUMN mix_minutes double precision CHECK (mix_minutes BETWEEN 0 AND 1440);
ALTER TABLE station ADD COLUMN least_ph double precision CHECK (least_ph BETWEEN 3 AND 10);
ALTER TABLE station ADD COLUMN most_ph double precision CHECK (most_ph BETWEEN 3 AND 10);
