-- A person has any number of roles; sessions, invitations and teams. Secrets are hashed (tokens) or protected (one-time codes).

CREATE TABLE person_new (
    id                 INTEGER PRIMARY KEY,
    email              TEXT NOT NULL UNIQUE COLLATE NOCASE,
    name               TEXT NOT NULL,
    password_hash      TEXT NOT NULL,
    active             INTEGER NOT NULL DEFAULT 1,
    failed_attempts    INTEGER NOT NULL DEFAULT 0,
    locked_until       TEXT,
    code_secret        TEXT,
    code_last_step     INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE person_role (
    person_id          INTEGER NOT NULL REFERENCES person (id),
    role               TEXT NOT NULL CHECK (role IN ('preparer', 'approver', 'manager', 'administrator', 'reader')),
    PRIMARY KEY (person_id, role)
) STRICT, WITHOUT ROWID;

INSERT INTO person_new (id, email, name, password_hash, failed_attempts, locked_until)
    SELECT id, email, name, password_hash, failed_attempts, locked_until FROM person;
INSERT INTO person_role (person_id, role) SELECT id, role FROM person;
DROP TABLE person;
ALTER TABLE person_new RENAME TO person;

CREATE TABLE session (
    id                 INTEGER PRIMARY KEY,
    token_sha256       TEXT NOT NULL UNIQUE,
    person_id          INTEGER NOT NULL REFERENCES person (id),
    started_at         TEXT NOT NULL,
    seen_at            TEXT NOT NULL,
    address            TEXT NOT NULL,
    program            TEXT NOT NULL,
    ended_at           TEXT
) STRICT;

CREATE INDEX session_of_person ON session (person_id, ended_at);

CREATE TABLE invitation (
    id                 INTEGER PRIMARY KEY,
    token_sha256       TEXT NOT NULL UNIQUE,
    email              TEXT NOT NULL COLLATE NOCASE,
    name               TEXT NOT NULL,
    roles              TEXT NOT NULL,
    invited_by         INTEGER NOT NULL REFERENCES person (id),
    invited_at         TEXT NOT NULL,
    expires_at         TEXT NOT NULL,
    used_at            TEXT
) STRICT;

CREATE TABLE team (
    id                 INTEGER PRIMARY KEY,
    name               TEXT NOT NULL UNIQUE COLLATE NOCASE
) STRICT;

CREATE TABLE person_team (
    person_id          INTEGER NOT NULL REFERENCES person (id),
    team_id            INTEGER NOT NULL REFERENCES team (id),
    PRIMARY KEY (person_id, team_id)
) STRICT, WITHOUT ROWID;

ALTER TABLE client ADD COLUMN team_id INTEGER REFERENCES team (id);
