-- Plans as text files, one row each. `summary` is what the list shows, worked out at each save.
CREATE TABLE plans (
  id TEXT PRIMARY KEY,
  title TEXT NOT NULL,
  text TEXT NOT NULL,
  revision INTEGER NOT NULL CHECK (revision >= 1),
  created TEXT NOT NULL,
  changed TEXT NOT NULL,
  summary TEXT NOT NULL
) STRICT;

CREATE INDEX plans_by_change ON plans (changed DESC);
