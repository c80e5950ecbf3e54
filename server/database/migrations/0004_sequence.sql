-- The order in which revisions were added, over all collections: what was there at a moment is all up to a number.
ALTER TABLE revisions ADD COLUMN sequence bigint GENERATED ALWAYS AS IDENTITY;
CREATE UNIQUE INDEX revisions_in_order ON revisions (sequence);
