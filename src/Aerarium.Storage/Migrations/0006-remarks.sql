-- What people say to each other about a line.

CREATE TABLE remark (
    id                 INTEGER PRIMARY KEY,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    line               TEXT NOT NULL,
    row                TEXT NOT NULL DEFAULT '',
    words              TEXT NOT NULL,
    person_id          INTEGER NOT NULL REFERENCES person (id),
    person_name        TEXT NOT NULL,
    at                 TEXT NOT NULL,
    settled_by         TEXT,
    settled_at         TEXT
) STRICT;

CREATE INDEX remark_of_return ON remark (return_id, line, row);
