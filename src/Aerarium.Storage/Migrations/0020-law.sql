-- Figures of the law that people of the practice have held against a printed source, for a return and year. The content is what was verified; when the figure says something else, the mark no longer counts.

CREATE TABLE law_verification (
    id            INTEGER PRIMARY KEY,
    definition    TEXT NOT NULL,
    year          INTEGER NOT NULL,
    period        TEXT NOT NULL,
    figure        TEXT NOT NULL,
    content       TEXT NOT NULL,
    against       TEXT NOT NULL,
    source_day    TEXT,
    page_sha256   TEXT REFERENCES artefact (sha256),
    page_name     TEXT,
    verified_by   INTEGER NOT NULL REFERENCES person (id),
    verified_at   TEXT NOT NULL,
    confirmed_by  INTEGER REFERENCES person (id),
    confirmed_at  TEXT,
    withdrawn_by  INTEGER REFERENCES person (id),
    withdrawn_at  TEXT,
    CHECK (confirmed_by IS NULL OR confirmed_by <> verified_by)
) STRICT;
CREATE UNIQUE INDEX law_verification_of_figure ON law_verification (definition, year, period, figure) WHERE withdrawn_at IS NULL;
