-- Attempts to sign in are counted for an account (a hash of what was typed, whether or not there is such an account) from a network
-- address, and from everywhere (the empty address). A person is told of those that were refused.

CREATE TABLE sign_in_attempt (
    account            TEXT NOT NULL,
    network            TEXT NOT NULL,
    failures           INTEGER NOT NULL,
    last_at            TEXT NOT NULL,
    wait_until         TEXT,
    PRIMARY KEY (account, network)
) STRICT, WITHOUT ROWID;

CREATE INDEX sign_in_attempt_by_time ON sign_in_attempt (last_at);

ALTER TABLE person DROP COLUMN failed_attempts;
ALTER TABLE person DROP COLUMN locked_until;
ALTER TABLE person ADD COLUMN refused_count INTEGER NOT NULL DEFAULT 0;
ALTER TABLE person ADD COLUMN refused_at TEXT;
ALTER TABLE person ADD COLUMN refused_from TEXT;
ALTER TABLE session ADD COLUMN refused_count INTEGER NOT NULL DEFAULT 0;
ALTER TABLE session ADD COLUMN refused_at TEXT;
ALTER TABLE session ADD COLUMN refused_from TEXT;

CREATE TABLE recovery_code (
    code_sha256        TEXT NOT NULL PRIMARY KEY,
    person_id          INTEGER NOT NULL REFERENCES person (id),
    used_at            TEXT
) STRICT, WITHOUT ROWID;

CREATE INDEX recovery_code_of_person ON recovery_code (person_id);

-- How far the chain of acts has been followed: in steps, and whole from the first act on.
CREATE TABLE ledger_proof (
    kind               TEXT NOT NULL PRIMARY KEY CHECK (kind IN ('step', 'whole')),
    act_id             INTEGER NOT NULL,
    hash               TEXT NOT NULL,
    at                 TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE INDEX act_erased ON act (erased_with, id) WHERE erased_with IS NOT NULL;

-- Lists of the Desk: counted from an index alone, and read in the order of clients without sorting all of them.
CREATE INDEX client_of_team ON client (team_id) WHERE team_id IS NOT NULL;
CREATE INDEX client_in_order ON client (client_group IS NULL, client_group, name);
DROP INDEX return_by_due;
CREATE INDEX return_by_due ON tax_return (due, stage, client_id);
CREATE INDEX return_for_lists ON tax_return (stage, started, due, unpaid, client_id);
