-- What follows a filed return: assessment, verification, objection; editions of authorities' schemas.

CREATE TABLE assessment (
    return_id          INTEGER PRIMARY KEY REFERENCES tax_return (id),
    number             TEXT NOT NULL,
    issued_on          TEXT NOT NULL,
    sha256             TEXT NOT NULL REFERENCES artefact (sha256),
    signature          TEXT NOT NULL,
    differences        INTEGER NOT NULL,
    received_at        TEXT NOT NULL
) STRICT;

CREATE TABLE audit_case (
    return_id          INTEGER PRIMARY KEY REFERENCES tax_return (id),
    number             TEXT NOT NULL,
    due_on             TEXT NOT NULL,
    state              TEXT NOT NULL CHECK (state IN ('open', 'closed')),
    content            TEXT NOT NULL,
    received_at        TEXT NOT NULL,
    answered_by        TEXT,
    answered_at        TEXT
) STRICT;

CREATE TABLE objection (
    return_id          INTEGER PRIMARY KEY REFERENCES tax_return (id),
    assessment         TEXT NOT NULL,
    reason             TEXT NOT NULL,
    number             TEXT NOT NULL,
    made_by            TEXT NOT NULL,
    made_at            TEXT NOT NULL
) STRICT;
