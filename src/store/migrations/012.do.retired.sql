-- What is no longer used: lists forget it, what was read there or with it stays and is judged as before.
ALTER TABLE station ADD COLUMN retired_at timestamptz;
ALTER TABLE system ADD COLUMN retired_at timestamptz;
