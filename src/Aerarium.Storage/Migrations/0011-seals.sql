-- The act of an edit carries a seal over everything entered on the return, so that values altered outside the application are found.

ALTER TABLE act ADD COLUMN seal TEXT;
