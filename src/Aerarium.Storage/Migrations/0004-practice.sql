-- Companies and relations; particulars of the practice; what is gathered about clients; what a return needs besides its entries.

ALTER TABLE client ADD COLUMN kind TEXT NOT NULL DEFAULT 'individual' CHECK (kind IN ('individual', 'company'));
ALTER TABLE client ADD COLUMN year_end TEXT;

CREATE TABLE client_particular (
    client_id          INTEGER NOT NULL REFERENCES client (id),
    name               TEXT NOT NULL,
    value              TEXT NOT NULL,
    PRIMARY KEY (client_id, name)
) STRICT, WITHOUT ROWID;

CREATE TABLE relation (
    id                 INTEGER PRIMARY KEY,
    client_id          INTEGER NOT NULL REFERENCES client (id),
    kind               TEXT NOT NULL CHECK (kind IN ('spouse', 'child', 'director', 'shareholder', 'subsidiary')),
    of_id              INTEGER NOT NULL REFERENCES client (id),
    UNIQUE (client_id, kind, of_id),
    CHECK (client_id <> of_id)
) STRICT;

CREATE INDEX relation_of ON relation (of_id);

CREATE TABLE practice_particular (
    country            TEXT NOT NULL,
    name               TEXT NOT NULL,
    value              TEXT NOT NULL,
    PRIMARY KEY (country, name)
) STRICT, WITHOUT ROWID;

INSERT INTO practice_particular (country, name, value) SELECT 'ke', 'agent-pin', agent_pin FROM practice;
INSERT INTO practice_particular (country, name, value) SELECT 'ke', 'agent-name', name FROM practice;
ALTER TABLE practice DROP COLUMN agent_pin;

CREATE TABLE practice_credential (
    country            TEXT PRIMARY KEY,
    user_name          TEXT NOT NULL,
    secret             BLOB NOT NULL,
    changed_at         TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE document (
    id                 INTEGER PRIMARY KEY,
    client_id          INTEGER NOT NULL REFERENCES client (id),
    return_id          INTEGER REFERENCES tax_return (id),
    kind               TEXT NOT NULL,
    year               INTEGER,
    name               TEXT NOT NULL,
    media_type         TEXT NOT NULL,
    bytes              INTEGER NOT NULL,
    pages              INTEGER,
    sha256             TEXT NOT NULL REFERENCES artefact (sha256),
    added_by           INTEGER NOT NULL REFERENCES person (id),
    added_at           TEXT NOT NULL
) STRICT;

CREATE INDEX document_of_client ON document (client_id);

CREATE TABLE statement (
    id                 INTEGER PRIMARY KEY,
    client_id          INTEGER NOT NULL REFERENCES client (id),
    kind               TEXT NOT NULL,
    year               INTEGER NOT NULL,
    identifier         TEXT NOT NULL,
    boxes              TEXT NOT NULL,
    source             TEXT NOT NULL,
    document_id        INTEGER REFERENCES document (id),
    revision           INTEGER NOT NULL DEFAULT 1,
    added_by           INTEGER NOT NULL REFERENCES person (id),
    added_at           TEXT NOT NULL
) STRICT;

CREATE INDEX statement_of_client ON statement (client_id, year);

CREATE TABLE consent (
    client_id          INTEGER PRIMARY KEY REFERENCES client (id),
    given_on           TEXT NOT NULL,
    given_by           TEXT NOT NULL,
    noted_by           TEXT NOT NULL,
    noted_at           TEXT NOT NULL
) STRICT;

CREATE TABLE item_tick (
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    item               TEXT NOT NULL,
    ticked_by          TEXT NOT NULL,
    ticked_at          TEXT NOT NULL,
    PRIMARY KEY (return_id, item)
) STRICT, WITHOUT ROWID;

CREATE TABLE verification (
    return_id          INTEGER PRIMARY KEY REFERENCES tax_return (id),
    state              TEXT NOT NULL CHECK (state IN ('agrees', 'differs', 'unknown', 'unreachable')),
    differences        TEXT NOT NULL,
    verified_by        TEXT NOT NULL,
    verified_at        TEXT NOT NULL
) STRICT;

CREATE TABLE payment (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    paid_on            TEXT NOT NULL,
    amount             TEXT NOT NULL,
    reference          TEXT NOT NULL,
    noted_by           TEXT NOT NULL,
    noted_at           TEXT NOT NULL,
    UNIQUE (return_id, reference)
) STRICT;

CREATE TABLE reminder (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    person_id          INTEGER NOT NULL REFERENCES person (id),
    on_day             TEXT NOT NULL,
    words              TEXT NOT NULL,
    made_by            TEXT NOT NULL,
    done_at            TEXT
) STRICT;

CREATE INDEX reminder_of_person ON reminder (person_id, done_at, on_day);

ALTER TABLE tax_return ADD COLUMN charges TEXT NOT NULL DEFAULT '0';
ALTER TABLE tax_return ADD COLUMN unpaid TEXT NOT NULL DEFAULT '0';
ALTER TABLE tax_return ADD COLUMN checked_on TEXT NOT NULL DEFAULT '';

-- An act about a deleted client keeps its place and its hash and loses what it says; the act that deleted names the hashes.
ALTER TABLE act ADD COLUMN erased_with INTEGER;
DROP TRIGGER act_is_never_changed;
CREATE TRIGGER act_is_never_changed BEFORE UPDATE ON act
WHEN NOT (OLD.erased_with IS NULL AND NEW.erased_with IS NOT NULL AND NEW.id = OLD.id AND NEW.at = OLD.at AND NEW.kind = OLD.kind
    AND NEW.hash = OLD.hash AND NEW.previous_hash = OLD.previous_hash AND NEW.return_id IS NULL AND NEW.client_id IS NULL
    AND NEW.line IS NULL AND NEW.row IS NULL AND NEW.before IS NULL AND NEW.after IS NULL)
BEGIN SELECT RAISE(ABORT, 'acts are never changed'); END;
