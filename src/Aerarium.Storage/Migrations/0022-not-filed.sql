-- Accounts go to no authority: once approved they are done.
ALTER TABLE tax_return ADD COLUMN filed INTEGER NOT NULL DEFAULT 1;
DROP INDEX return_by_due;
DROP INDEX return_for_lists;
CREATE INDEX return_by_due ON tax_return (due, stage, filed, client_id);
CREATE INDEX return_for_lists ON tax_return (stage, filed, started, due, unpaid, client_id);
