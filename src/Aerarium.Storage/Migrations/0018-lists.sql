-- A code of the practice's own for each client, and lists kept for clients as well as for the Desk.

ALTER TABLE client ADD COLUMN code TEXT;
CREATE UNIQUE INDEX client_by_code ON client (code COLLATE NOCASE) WHERE code IS NOT NULL;

CREATE TABLE kept_list_of_place (
    person_id          INTEGER NOT NULL REFERENCES person (id),
    place              TEXT NOT NULL,
    name               TEXT NOT NULL COLLATE NOCASE,
    query              TEXT NOT NULL,
    PRIMARY KEY (person_id, place, name)
) STRICT, WITHOUT ROWID;
INSERT INTO kept_list_of_place (person_id, place, name, query) SELECT person_id, 'desk', name, query FROM kept_list;
DROP TABLE kept_list;
ALTER TABLE kept_list_of_place RENAME TO kept_list;
