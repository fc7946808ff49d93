-- An e-return in JSON carries its signature beside it.

ALTER TABLE built_return ADD COLUMN signature TEXT;
