-- Dates and times are ISO 8601 texts; amounts are canonical decimal texts (no grouping, decimal point), never floating point.

CREATE TABLE practice (
    id                 INTEGER PRIMARY KEY CHECK (id = 1),
    name               TEXT NOT NULL,
    agent_pin          TEXT NOT NULL,
    signing_key        BLOB NOT NULL,
    certificate        BLOB NOT NULL,
    created_at         TEXT NOT NULL
) STRICT;

CREATE TABLE person (
    id                 INTEGER PRIMARY KEY,
    email              TEXT NOT NULL UNIQUE COLLATE NOCASE,
    name               TEXT NOT NULL,
    role               TEXT NOT NULL CHECK (role IN ('preparer', 'approver')),
    password_hash      TEXT NOT NULL,
    failed_attempts    INTEGER NOT NULL DEFAULT 0,
    locked_until       TEXT
) STRICT;

CREATE TABLE client (
    id                 INTEGER PRIMARY KEY,
    country            TEXT NOT NULL,
    identifier         TEXT NOT NULL,
    name               TEXT NOT NULL,
    client_group       TEXT,
    birth_date         TEXT,
    email              TEXT,
    phone              TEXT,
    postal_address     TEXT,
    payout_route       TEXT,
    payout_bank        TEXT,
    payout_branch      TEXT,
    payout_account_name   TEXT,
    payout_account_number TEXT,
    payout_mobile      TEXT,
    revision           INTEGER NOT NULL DEFAULT 1,
    UNIQUE (country, identifier)
) STRICT;

CREATE TABLE tax_return (
    id                 INTEGER PRIMARY KEY,
    client_id          INTEGER NOT NULL REFERENCES client (id),
    definition         TEXT NOT NULL,
    year               INTEGER NOT NULL,
    kind               TEXT NOT NULL CHECK (kind IN ('original', 'amended')),
    stage              TEXT NOT NULL,
    revision           INTEGER NOT NULL DEFAULT 0,
    holder_id          INTEGER NOT NULL REFERENCES person (id),
    opened_at          TEXT NOT NULL,
    due                TEXT NOT NULL,
    balance            TEXT NOT NULL DEFAULT '0',
    errors             INTEGER NOT NULL DEFAULT 0,
    warnings           INTEGER NOT NULL DEFAULT 0,
    started            INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE UNIQUE INDEX one_original_per_year ON tax_return (client_id, definition, year) WHERE kind = 'original';

CREATE TABLE entry_row (
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    section            TEXT NOT NULL,
    row                TEXT NOT NULL,
    position           INTEGER NOT NULL,
    PRIMARY KEY (return_id, section, row)
) STRICT, WITHOUT ROWID;

CREATE TABLE entry (
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    line               TEXT NOT NULL,
    row                TEXT NOT NULL DEFAULT '',
    value              TEXT,
    origin             TEXT NOT NULL,
    source             TEXT,
    expression         TEXT,
    revision           INTEGER NOT NULL,
    changed_by         INTEGER NOT NULL REFERENCES person (id),
    changed_at         TEXT NOT NULL,
    PRIMARY KEY (return_id, line, row)
) STRICT, WITHOUT ROWID;

CREATE TABLE act (
    id                 INTEGER PRIMARY KEY,
    at                 TEXT NOT NULL,
    person_id          INTEGER REFERENCES person (id),
    person_name        TEXT NOT NULL,
    kind               TEXT NOT NULL,
    return_id          INTEGER REFERENCES tax_return (id),
    client_id          INTEGER REFERENCES client (id),
    line               TEXT,
    row                TEXT,
    before             TEXT,
    after              TEXT,
    origin             TEXT,
    previous_hash      TEXT NOT NULL,
    hash               TEXT NOT NULL
) STRICT;

CREATE INDEX act_of_return ON act (return_id, id);

CREATE TRIGGER act_is_never_changed BEFORE UPDATE ON act BEGIN SELECT RAISE(ABORT, 'acts are never changed'); END;
CREATE TRIGGER act_is_never_removed BEFORE DELETE ON act BEGIN SELECT RAISE(ABORT, 'acts are never removed'); END;

CREATE TABLE finding_acceptance (
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    finding            TEXT NOT NULL,
    row                TEXT NOT NULL DEFAULT '',
    message            TEXT NOT NULL,
    reason             TEXT NOT NULL,
    person_name        TEXT NOT NULL,
    at                 TEXT NOT NULL,
    PRIMARY KEY (return_id, finding, row)
) STRICT, WITHOUT ROWID;

CREATE TABLE approval (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    state              TEXT NOT NULL CHECK (state IN ('handed-over', 'approved', 'returned', 'withdrawn')),
    handed_over_by     INTEGER NOT NULL REFERENCES person (id),
    handed_over_at     TEXT NOT NULL,
    approved_by        INTEGER REFERENCES person (id),
    approved_at        TEXT,
    remark             TEXT,
    revision           INTEGER NOT NULL,
    rule_revision      TEXT NOT NULL,
    entries_sha256     TEXT
) STRICT;

CREATE TABLE artefact (
    sha256             TEXT PRIMARY KEY,
    media_type         TEXT NOT NULL,
    content            BLOB NOT NULL,
    created_at         TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE built_return (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    approval_id        INTEGER NOT NULL REFERENCES approval (id),
    built_at           TEXT NOT NULL,
    schema_sha256      TEXT NOT NULL,
    ereturn_sha256     TEXT NOT NULL REFERENCES artefact (sha256),
    copy_sha256        TEXT NOT NULL REFERENCES artefact (sha256),
    faults             TEXT NOT NULL
) STRICT;

CREATE TABLE sending (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    built_id           INTEGER NOT NULL UNIQUE REFERENCES built_return (id),
    idempotency_key    TEXT NOT NULL UNIQUE,
    state              TEXT NOT NULL CHECK (state IN ('queued', 'pending', 'accepted', 'rejected')),
    attempts           INTEGER NOT NULL DEFAULT 0,
    next_attempt_at    TEXT NOT NULL,
    submission         TEXT,
    acknowledgement    TEXT,
    reasons            TEXT,
    problem            TEXT,
    receipt_sha256     TEXT REFERENCES artefact (sha256),
    created_by         INTEGER NOT NULL REFERENCES person (id),
    created_at         TEXT NOT NULL,
    answered_at        TEXT
) STRICT;

CREATE UNIQUE INDEX one_open_sending_per_return ON sending (return_id) WHERE state IN ('queued', 'pending', 'accepted');

CREATE TABLE published_schema (
    path               TEXT PRIMARY KEY,
    sha256             TEXT NOT NULL,
    content            TEXT NOT NULL,
    fetched_at         TEXT NOT NULL
) STRICT, WITHOUT ROWID;
