-- What the practice corrects in the law: proposed by one person, turned on by another. What has been turned on makes an edition of the law of a return,
-- year and period; editions are numbered and never changed, and a return names the one it is computed by.

CREATE TABLE law_correction (
    id                 INTEGER PRIMARY KEY,
    definition         TEXT NOT NULL,
    figure             TEXT NOT NULL,
    label              TEXT NOT NULL,
    says               TEXT NOT NULL,
    content            TEXT NOT NULL,
    was                TEXT NOT NULL,
    source             TEXT NOT NULL,
    source_day         TEXT,
    reason             TEXT NOT NULL,
    state              TEXT NOT NULL CHECK (state IN ('proposed', 'in-force', 'discarded', 'withdrawn', 'replaced')),
    proposed_by        INTEGER NOT NULL REFERENCES person (id),
    proposed_at        TEXT NOT NULL,
    decided_by         INTEGER REFERENCES person (id),
    decided_at         TEXT,
    withdrawal_by      INTEGER REFERENCES person (id),
    withdrawal_at      TEXT,
    withdrawal_reason  TEXT
) STRICT;

CREATE TABLE law_correction_cover (
    correction_id  INTEGER NOT NULL REFERENCES law_correction (id),
    year           INTEGER NOT NULL,
    period         TEXT NOT NULL,
    from_edition   INTEGER,
    until_edition  INTEGER,
    PRIMARY KEY (correction_id, year, period)
) STRICT;
CREATE INDEX law_correction_of_return ON law_correction (definition, state);

CREATE TABLE law_edition (
    definition   TEXT NOT NULL,
    year         INTEGER NOT NULL,
    period       TEXT NOT NULL,
    number       INTEGER NOT NULL,
    corrections  TEXT NOT NULL,
    made_by      INTEGER NOT NULL,
    made_at      TEXT NOT NULL,
    PRIMARY KEY (definition, year, period, number)
) STRICT;

ALTER TABLE tax_return ADD COLUMN law_edition INTEGER NOT NULL DEFAULT 0;
CREATE INDEX return_of_law ON tax_return (definition, year, period, stage);
