-- Companies that are associated with each other share limits of the law.
CREATE TABLE relation_anew (
    id                 INTEGER PRIMARY KEY,
    client_id          INTEGER NOT NULL REFERENCES client (id),
    kind               TEXT NOT NULL CHECK (kind IN ('spouse', 'child', 'director', 'shareholder', 'subsidiary', 'associated')),
    of_id              INTEGER NOT NULL REFERENCES client (id),
    UNIQUE (client_id, kind, of_id),
    CHECK (client_id <> of_id)
) STRICT;
INSERT INTO relation_anew (id, client_id, kind, of_id) SELECT id, client_id, kind, of_id FROM relation;
DROP TABLE relation;
ALTER TABLE relation_anew RENAME TO relation;
CREATE INDEX relation_of ON relation (of_id);
