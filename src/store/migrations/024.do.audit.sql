-- Who did what is asked for by its thing, to tell what it was before.
CREATE INDEX audit_thing ON audit (site_id, what, subject, id);
