-- The token of the save that made the newest revision: whose save it was, when its answer was lost.
ALTER TABLE plans ADD COLUMN saved_by TEXT;
-- What the list is searched in: title and boards in small letters without accents. Filled with the summaries.
ALTER TABLE plans ADD COLUMN sought TEXT NOT NULL DEFAULT '';
-- The list is sorted and searched in these alone; rows are read for one page only.
DROP INDEX plans_by_change;
CREATE INDEX plans_by_change ON plans (changed DESC, id, sought);
CREATE INDEX plans_by_title ON plans (title COLLATE NOCASE, id, sought);
-- Entries as they were validated, by what was written and the program that did it, so that a start need not do it again.
CREATE TABLE validated (
  hash TEXT PRIMARY KEY,
  result TEXT NOT NULL
) STRICT;
