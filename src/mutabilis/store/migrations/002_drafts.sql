-- What is on a bench and not yet saved. One row a bench; the body is the front end's own, kept as it came.
CREATE TABLE draft (
  key        TEXT PRIMARY KEY CHECK (length(key) BETWEEN 1 AND 80),
  body       TEXT NOT NULL CHECK (json_valid(body)),
  updated_at TEXT NOT NULL
) STRICT;

CREATE TABLE setting (
  key   TEXT PRIMARY KEY,
  value TEXT NOT NULL CHECK (json_valid(value))
) STRICT;

CREATE INDEX version_by_batter ON version (batter_id, number);
