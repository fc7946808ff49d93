-- The rules an approval was given by are told by what they compute; a corrected label changes nothing.
ALTER TABLE approval RENAME COLUMN rule_revision TO figure_revision;
