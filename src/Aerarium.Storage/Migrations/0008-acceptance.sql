-- Rules a practice makes for approval, a second signature, and the client's own acceptance.

CREATE TABLE practice_rule (
    name               TEXT PRIMARY KEY,
    value              TEXT NOT NULL
) STRICT, WITHOUT ROWID;

ALTER TABLE approval ADD COLUMN second_by INTEGER REFERENCES person (id);
ALTER TABLE approval ADD COLUMN second_at TEXT;

CREATE TABLE client_acceptance (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    approval_id        INTEGER NOT NULL REFERENCES approval (id),
    token_sha256       TEXT NOT NULL UNIQUE,
    asked_by           TEXT NOT NULL,
    asked_at           TEXT NOT NULL,
    expires_at         TEXT NOT NULL,
    answer             TEXT CHECK (answer IN ('accepted', 'refused')),
    name               TEXT,
    remark             TEXT,
    answered_at        TEXT
) STRICT;

CREATE INDEX acceptance_of_approval ON client_acceptance (approval_id);
