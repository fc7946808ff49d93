-- What went by mail and what came back, word for word; the printed copy that bears the acknowledgement's number, and the acknowledgement for people.

ALTER TABLE sending ADD COLUMN letter TEXT;
ALTER TABLE sending ADD COLUMN reply TEXT;
ALTER TABLE sending ADD COLUMN copy_sha256 TEXT REFERENCES artefact (sha256);
ALTER TABLE sending ADD COLUMN acknowledgement_sha256 TEXT REFERENCES artefact (sha256);
