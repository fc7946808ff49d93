-- What an authority that checks beforehand said of a built e-return, before it was sent: when, and its reasons as they came.

ALTER TABLE built_return ADD COLUMN checked_at TEXT;
ALTER TABLE built_return ADD COLUMN check_reasons TEXT;
