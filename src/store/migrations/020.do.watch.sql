-- What is watched for, what came of it, and who was told.

CREATE TABLE watch_condition (
	site_id     integer NOT NULL REFERENCES site,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	station_id  bigint NOT NULL,
	kind        text NOT NULL CHECK (kind IN ('out-of-range','will-leave','silent','out-of-water','doubtful','below-level')),
	quantity    text CHECK (quantity IN ('ph','ec','temp','level','volume','do','orp','mv','no3','k','ca','alkalinity','hardness','air_temp','humidity','moisture','substrate_ec','flow')),
	minutes     double precision CHECK (minutes > 0 AND minutes <= 100000),
	hours       double precision CHECK (hours > 0 AND hours <= 720),
	least       double precision CHECK (least > 0 AND least < 'infinity'),
	-- It is told by these beside the bell.
	by_mail     boolean NOT NULL DEFAULT false,
	by_webhook  boolean NOT NULL DEFAULT false,
	off_at      timestamptz,
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, station_id) REFERENCES station (site_id, id)
);

-- One time that a condition held, from its beginning to its end.
CREATE TABLE watch_alert (
	site_id        integer NOT NULL,
	id             bigint NOT NULL DEFAULT nextval('row_id'),
	condition_id   bigint NOT NULL,
	since          timestamptz NOT NULL,
	noticed_at     timestamptz NOT NULL DEFAULT now(),
	ended_at       timestamptz,
	value          double precision,
	limit_value    double precision,
	-- When a limit is expected to be reached.
	expected_at    timestamptz,
	-- Told as begun and as ended; what quiet hours hold back is told after them.
	told_at        timestamptz,
	end_told_at    timestamptz,
	snoozed_until  timestamptz,
	snooze_reason  text NOT NULL DEFAULT '',
	seen_at        timestamptz,
	PRIMARY KEY (site_id, id),
	FOREIGN KEY (site_id, condition_id) REFERENCES watch_condition (site_id, id)
);
CREATE UNIQUE INDEX watch_alert_open ON watch_alert (site_id, condition_id) WHERE ended_at IS NULL;
CREATE INDEX watch_alert_by_time ON watch_alert (site_id, noticed_at DESC);

-- A message on its way: once for each beginning and end and each way.
CREATE TABLE watch_delivery (
	site_id     integer NOT NULL,
	id          bigint NOT NULL DEFAULT nextval('row_id'),
	alert_id    bigint NOT NULL,
	says        text NOT NULL CHECK (says IN ('begun', 'ended')),
	way         text NOT NULL CHECK (way IN ('mail', 'webhook')),
	state       text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'sent', 'dead')),
	tries       integer NOT NULL DEFAULT 0,
	problem     text NOT NULL DEFAULT '',
	made_at     timestamptz NOT NULL DEFAULT now(),
	sent_at     timestamptz,
	PRIMARY KEY (site_id, id),
	UNIQUE (site_id, alert_id, says, way),
	FOREIGN KEY (site_id, alert_id) REFERENCES watch_alert (site_id, id)
);

-- How it is told: the mail server, the address of the webhook, the quiet hours.
CREATE TABLE watch_settings (
	site_id     integer PRIMARY KEY REFERENCES site,
	mail        jsonb,
	webhook     jsonb,
	quiet       jsonb
);

-- What was sent to the mailbox that stands in for a mail server.
CREATE TABLE stand_in_mail (
	id           bigint PRIMARY KEY DEFAULT nextval('row_id'),
	received_at  timestamptz NOT NULL DEFAULT now(),
	sender       text NOT NULL,
	recipient    text NOT NULL,
	subject      text NOT NULL,
	body         text NOT NULL
);
