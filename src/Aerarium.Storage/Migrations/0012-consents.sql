-- A consent the practice gave at an authority: the tokens, protected, in place of a secret.

CREATE TABLE practice_consent (
    country            TEXT PRIMARY KEY,
    access             BLOB NOT NULL,
    access_until       TEXT NOT NULL,
    refresh            BLOB NOT NULL,
    given_by           TEXT NOT NULL,
    given_at           TEXT NOT NULL
) STRICT, WITHOUT ROWID;
