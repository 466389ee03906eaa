CREATE TABLE batter (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
  form       TEXT NOT NULL CHECK (form IN ('griddle', 'waffle', 'crepe', 'tray')),
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE version (
  id         TEXT PRIMARY KEY,
  batter_id  TEXT NOT NULL REFERENCES batter (id),
  number     INTEGER NOT NULL,
  parent_id  TEXT REFERENCES version (id),
  form       TEXT NOT NULL,
  rest_min   REAL,
  servings   REAL,
  note       TEXT NOT NULL,
  saved_at   TEXT NOT NULL,
  UNIQUE (batter_id, number)
) STRICT;

CREATE TABLE version_diet (
  version_id TEXT NOT NULL REFERENCES version (id),
  position   INTEGER NOT NULL,
  diet       TEXT NOT NULL,
  PRIMARY KEY (version_id, position)
) STRICT;

CREATE TABLE version_line (
  version_id       TEXT NOT NULL REFERENCES version (id),
  position         INTEGER NOT NULL,
  text             TEXT NOT NULL,
  ingredient       TEXT,
  grams            REAL NOT NULL,
  low              REAL NOT NULL,
  high             REAL NOT NULL,
  confidence       TEXT NOT NULL,
  note             TEXT NOT NULL,
  problem          TEXT NOT NULL,
  place            TEXT NOT NULL,
  optional         INTEGER NOT NULL,
  alternative      TEXT,
  alternative_text TEXT,
  states           TEXT NOT NULL,
  PRIMARY KEY (version_id, position)
) STRICT;

-- A saved version never changes: the log points at the exact one that was made.
CREATE TRIGGER version_stays BEFORE UPDATE ON version BEGIN SELECT RAISE(ABORT, 'a saved version never changes'); END;
CREATE TRIGGER version_kept BEFORE DELETE ON version BEGIN SELECT RAISE(ABORT, 'a saved version is never deleted'); END;
CREATE TRIGGER version_line_stays BEFORE UPDATE ON version_line BEGIN SELECT RAISE(ABORT, 'a saved version never changes'); END;
CREATE TRIGGER version_line_kept BEFORE DELETE ON version_line BEGIN SELECT RAISE(ABORT, 'a saved version is never deleted'); END;
