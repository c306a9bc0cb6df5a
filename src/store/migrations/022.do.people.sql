-- Who may do what here. People belong to the installation; what they may do is said for each site.

CREATE TABLE person (
	id          bigint PRIMARY KEY DEFAULT nextval('row_id'),
	name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
	-- scrypt$N$r$p$salt$hash; null: signs in otherwise.
	passphrase  text,
	-- Of a device that is shared: the same form.
	pin         text,
	-- Named first, on the machine itself: a grower at every site.
	owner       boolean NOT NULL DEFAULT false,
	made_at     timestamptz NOT NULL DEFAULT now(),
	ended_at    timestamptz
);
-- A name is one name however it is written.
CREATE UNIQUE INDEX person_name ON person (lower(name));

CREATE TABLE membership (
	site_id    integer NOT NULL REFERENCES site,
	person_id  bigint NOT NULL REFERENCES person,
	role       text NOT NULL CHECK (role IN ('visitor','helper','grower')),
	PRIMARY KEY (site_id, person_id)
);

-- A browser or a script that is signed in. The token itself is known to it alone.
CREATE TABLE sign_in (
	id            bigint PRIMARY KEY DEFAULT nextval('row_id'),
	token_sha256  bytea NOT NULL UNIQUE,
	-- Who signed in; of a shared device whoever put it up.
	person_id     bigint NOT NULL REFERENCES person,
	-- A device that stays, and who measures with it now.
	shared        boolean NOT NULL DEFAULT false,
	measures_id   bigint REFERENCES person,
	measures_at   timestamptz,
	label         text NOT NULL DEFAULT '' CHECK (length(label) <= 200),
	made_at       timestamptz NOT NULL DEFAULT now(),
	seen_at       timestamptz NOT NULL DEFAULT now(),
	expires_at    timestamptz NOT NULL,
	ended_at      timestamptz
);
CREATE INDEX sign_in_person ON sign_in (person_id);

CREATE TABLE passkey (
	id             bigint PRIMARY KEY DEFAULT nextval('row_id'),
	person_id      bigint NOT NULL REFERENCES person,
	credential_id  text NOT NULL UNIQUE,
	public_key     bytea NOT NULL,
	counter        bigint NOT NULL DEFAULT 0,
	transports     text[] NOT NULL DEFAULT '{}',
	label          text NOT NULL DEFAULT '' CHECK (length(label) <= 200),
	made_at        timestamptz NOT NULL DEFAULT now(),
	used_at        timestamptz
);
-- What a passkey is asked, once.
CREATE TABLE passkey_challenge (
	challenge   text PRIMARY KEY,
	person_id   bigint REFERENCES person,
	made_at     timestamptz NOT NULL DEFAULT now()
);

-- A way in for one person, once.
CREATE TABLE join_code (
	code_sha256  bytea PRIMARY KEY,
	site_id      integer NOT NULL REFERENCES site,
	role         text NOT NULL CHECK (role IN ('visitor','helper','grower')),
	made_by      bigint NOT NULL REFERENCES person,
	made_at      timestamptz NOT NULL DEFAULT now(),
	expires_at   timestamptz NOT NULL,
	used_at      timestamptz
);

-- Tries that were wrong, to slow the next.
CREATE TABLE wrong_try (
	id       bigint PRIMARY KEY DEFAULT nextval('row_id'),
	subject  text NOT NULL,
	at       timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX wrong_try_subject ON wrong_try (subject, at);
