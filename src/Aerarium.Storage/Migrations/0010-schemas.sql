-- Every edition of an authority's schema is kept; the one used is the one somebody turned on last.

CREATE TABLE schema_edition (
    path               TEXT NOT NULL,
    sha256             TEXT NOT NULL,
    content            TEXT NOT NULL,
    came_from          TEXT NOT NULL,
    came_at            TEXT NOT NULL,
    turned_on_by       TEXT,
    turned_on_at       TEXT,
    PRIMARY KEY (path, sha256)
) STRICT, WITHOUT ROWID;

INSERT INTO schema_edition (path, sha256, content, came_from, came_at, turned_on_by, turned_on_at)
SELECT path, sha256, content, 'authority', fetched_at, 'first edition', fetched_at FROM published_schema;

DROP TABLE published_schema;
