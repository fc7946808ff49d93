-- Receipts carry the authority's signature.

ALTER TABLE sending ADD COLUMN receipt_signature TEXT;
