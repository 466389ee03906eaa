-- A batch makes one version in one size; what happens to it is appended and never rewritten. The columns after `started_at` say what the
-- events come to, so that a list need not read them.
CREATE TABLE batch (
  id          TEXT PRIMARY KEY,
  version_id  TEXT NOT NULL REFERENCES version (id),
  plan        TEXT NOT NULL CHECK (json_valid(plan)),
  diets       TEXT NOT NULL CHECK (json_valid(diets)),
  whom        TEXT NOT NULL,
  first_at    REAL,
  mixed       TEXT NOT NULL CHECK (mixed IN ('two_bowls', 'one_bowl', 'blender')),
  mark        INTEGER NOT NULL,
  started_at  REAL NOT NULL,
  finished_at REAL,
  pieces      INTEGER,
  planned     REAL,
  stars       INTEGER,
  note        TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX batch_by_end ON batch (finished_at, started_at);
CREATE INDEX batch_by_version ON batch (version_id);
CREATE TRIGGER batch_plan_stays BEFORE UPDATE OF version_id, plan, started_at ON batch
BEGIN SELECT RAISE(ABORT, 'what a batch makes never changes'); END;

CREATE TABLE batch_event (
  batch_id    TEXT NOT NULL REFERENCES batch (id),
  seq         INTEGER NOT NULL,
  id          TEXT NOT NULL,
  received_at REAL NOT NULL,
  body        TEXT NOT NULL CHECK (json_valid(body)),
  PRIMARY KEY (batch_id, seq),
  UNIQUE (batch_id, id)
) STRICT;
CREATE TRIGGER batch_event_stays BEFORE UPDATE ON batch_event BEGIN SELECT RAISE(ABORT, 'an event is never rewritten'); END;
CREATE TRIGGER batch_event_kept BEFORE DELETE ON batch_event BEGIN SELECT RAISE(ABORT, 'an event is never deleted'); END;

-- What a batch taught; withdrawn with its batch, or when the kitchen forgets it.
CREATE TABLE lesson (
  id           INTEGER PRIMARY KEY,
  batch_id     TEXT NOT NULL REFERENCES batch (id),
  kind         TEXT NOT NULL,
  subject      TEXT NOT NULL,
  body         TEXT NOT NULL CHECK (json_valid(body)),
  at           TEXT NOT NULL,
  withdrawn_at TEXT
) STRICT;
CREATE INDEX lesson_by_subject ON lesson (kind, subject);

-- The kitchen's own surfaces, and those of the shipped ones that it has put away.
CREATE TABLE surface (
  id          TEXT PRIMARY KEY,
  body        TEXT NOT NULL CHECK (json_valid(body)),
  archived_at TEXT,
  updated_at  TEXT NOT NULL
) STRICT;
