-- Who made a plan, as a session that came from elsewhere (null: the machine itself), and what others may do with it.
CREATE TABLE rights (
  plan TEXT PRIMARY KEY,
  owner TEXT,
  others TEXT NOT NULL CHECK (others IN ('editor', 'viewer', 'none'))
) STRICT;
