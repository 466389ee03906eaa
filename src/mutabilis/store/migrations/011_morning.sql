-- Mornings: what is wished for a day (guests with their needs, each with a day on which they are forgotten), the plan that stands, and
-- what happened. Happenings are only ever added; guests are taken out of the wishes when their day has come.
CREATE TABLE IF NOT EXISTS morning (
  day        TEXT PRIMARY KEY,
  wishes     TEXT NOT NULL CHECK (json_valid(wishes)),
  plan       TEXT CHECK (plan IS NULL OR json_valid(plan)),
  revision   INTEGER NOT NULL DEFAULT 0,
  updated_at TEXT NOT NULL
) STRICT;

CREATE TABLE IF NOT EXISTS happening (
  n    INTEGER PRIMARY KEY AUTOINCREMENT,
  id   TEXT NOT NULL UNIQUE,
  day  TEXT NOT NULL REFERENCES morning (day),
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
CREATE INDEX IF NOT EXISTS happening_by_day ON happening (day, n);
CREATE TRIGGER IF NOT EXISTS happening_stays BEFORE UPDATE OF id, day ON happening BEGIN SELECT RAISE(ABORT, 'what happened never changes'); END;
