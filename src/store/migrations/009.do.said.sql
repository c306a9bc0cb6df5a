-- What a check found is kept as a code with what it needs to be said; the words are put to it where it is shown. Findings of
-- before keep their words until the checks, which are of a newer version now, have judged them again.
ALTER TABLE verdict ADD COLUMN said jsonb;
UPDATE verdict SET said = jsonb_build_object('code', 'as-written', 'message', message, 'nextStep', next_step)
	WHERE message <> '' OR next_step <> '';

DROP VIEW reading_judged;
ALTER TABLE verdict DROP COLUMN message, DROP COLUMN next_step;
CREATE VIEW reading_judged AS
SELECT r.*, s.code AS station, s.name AS station_name, s.kind AS station_kind, i.code AS instrument, i.name AS instrument_name,
	v.flag, v.check_code, v.cause, v.suggested, coalesce(t.u, v.u) AS u, v.said, v.evidence, v.expected,
	d.kind AS decision, d.reason, d.decided_at,
	t.status AS restated_status, CASE WHEN t.status = 'restated' THEN t.value END AS restated, t.error AS restated_error,
	t.provisional AS restated_provisional, t.partial AS restated_partial, t.from_calibration, t.to_calibration,
	t.u_instrument, t.u_standards, t.u_drift,
	EXISTS (SELECT 1 FROM reading n WHERE n.site_id = r.site_id AND n.supersedes = r.id
		AND COALESCE((SELECT x.kind FROM decision x WHERE x.site_id = n.site_id AND x.reading_id = n.id ORDER BY x.id DESC LIMIT 1), '') <> 'undo') AS superseded
FROM reading r
JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
LEFT JOIN restatement t ON t.site_id = r.site_id AND t.reading_id = r.id
LEFT JOIN LATERAL (SELECT kind, reason, decided_at FROM decision d WHERE d.site_id = r.site_id AND d.reading_id = r.id ORDER BY d.id DESC LIMIT 1) d ON true;
