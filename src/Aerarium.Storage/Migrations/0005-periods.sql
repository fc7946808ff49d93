-- Returns of a part of a year.

ALTER TABLE tax_return ADD COLUMN period TEXT NOT NULL DEFAULT '';

DROP INDEX one_original_per_year;
CREATE UNIQUE INDEX one_original_per_period ON tax_return (client_id, definition, year, period) WHERE kind = 'original';

-- When a mail was last sent; nothing may have come back since.

ALTER TABLE sending ADD COLUMN sent_at TEXT;
