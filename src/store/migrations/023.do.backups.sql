-- What was backed up by itself, and whether it was tried out. The files lie in a folder of the machine.
CREATE TABLE backup (
	id           bigint PRIMARY KEY DEFAULT nextval('row_id'),
	at           timestamptz NOT NULL DEFAULT now(),
	file         text NOT NULL UNIQUE,
	bytes        bigint NOT NULL CHECK (bytes >= 0),
	sha256       text NOT NULL CHECK (sha256 ~ '^[0-9a-f]{64}$'),
	-- Brought back into a database of its own and taken out again: the same bytes.
	verified_at  timestamptz,
	problem      text NOT NULL DEFAULT '',
	removed_at   timestamptz
);
