-- Revisions of plans as they were saved: text deflated, words of what changed worked out when they are asked for.
CREATE TABLE revisions (
  plan TEXT NOT NULL,
  revision INTEGER NOT NULL,
  saved TEXT NOT NULL,
  title TEXT NOT NULL,
  text BLOB NOT NULL,
  -- A name that the maker gave it: such a revision stays.
  name TEXT,
  -- What changed since the one before it, as a list of sentences.
  words TEXT,
  PRIMARY KEY (plan, revision)
) STRICT, WITHOUT ROWID;

-- Plans that were deleted, as they were.
CREATE TABLE bin (
  id TEXT PRIMARY KEY,
  title TEXT NOT NULL,
  text TEXT NOT NULL,
  revision INTEGER NOT NULL,
  created TEXT NOT NULL,
  changed TEXT NOT NULL,
  summary TEXT NOT NULL,
  sought TEXT NOT NULL,
  deleted TEXT NOT NULL
) STRICT;
