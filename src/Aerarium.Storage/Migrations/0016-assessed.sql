-- What a notice of assessment decided: the balance, the day to pay what it adds, the last day to object.

ALTER TABLE assessment ADD COLUMN balance TEXT;
ALTER TABLE assessment ADD COLUMN pay_by TEXT;
ALTER TABLE assessment ADD COLUMN object_by TEXT;
