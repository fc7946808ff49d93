-- The Desk at scale: tags, kept lists, acts on many returns at once.

CREATE TABLE return_tag (
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    tag                TEXT NOT NULL COLLATE NOCASE,
    PRIMARY KEY (return_id, tag)
) STRICT, WITHOUT ROWID;

CREATE INDEX return_of_tag ON return_tag (tag);

CREATE TABLE kept_list (
    person_id          INTEGER NOT NULL REFERENCES person (id),
    name               TEXT NOT NULL COLLATE NOCASE,
    query              TEXT NOT NULL,
    PRIMARY KEY (person_id, name)
) STRICT, WITHOUT ROWID;

CREATE TABLE batch (
    id                 INTEGER PRIMARY KEY,
    act                TEXT NOT NULL,
    argument           TEXT,
    state              TEXT NOT NULL CHECK (state IN ('running', 'stopped', 'done')),
    created_by         INTEGER NOT NULL REFERENCES person (id),
    created_at         TEXT NOT NULL
) STRICT;

CREATE TABLE batch_item (
    batch_id           INTEGER NOT NULL REFERENCES batch (id),
    position           INTEGER NOT NULL,
    return_id          INTEGER NOT NULL REFERENCES tax_return (id),
    state              TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'done', 'refused')),
    result             TEXT,
    PRIMARY KEY (batch_id, position)
) STRICT, WITHOUT ROWID;

CREATE INDEX return_of_client ON tax_return (client_id, definition, year);
CREATE INDEX return_by_due ON tax_return (due);
CREATE INDEX client_by_name ON client (name);
CREATE INDEX act_of_client ON act (client_id, id);
