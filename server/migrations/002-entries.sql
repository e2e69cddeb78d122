-- Boards and parts of the maker's own, as the YAML that was written.
CREATE TABLE entries (
  kind TEXT NOT NULL CHECK (kind IN ('boards', 'parts')),
  id TEXT NOT NULL,
  text TEXT NOT NULL,
  revision INTEGER NOT NULL CHECK (revision >= 1),
  created TEXT NOT NULL,
  changed TEXT NOT NULL,
  PRIMARY KEY (kind, id)
) STRICT;
