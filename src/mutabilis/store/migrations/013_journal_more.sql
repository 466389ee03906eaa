-- What a batch was thought to become when it was begun: reckoned once, and never again.
CREATE TABLE IF NOT EXISTS batch_frozen (
  batch_id TEXT PRIMARY KEY REFERENCES batch (id),
  body     TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
CREATE TRIGGER IF NOT EXISTS batch_frozen_stays BEFORE UPDATE ON batch_frozen BEGIN SELECT RAISE(ABORT, 'what was reckoned at the start stays'); END;

-- Who ate of which load. A name is taken out when its time has come; what the guest may not eat stays.
CREATE TABLE IF NOT EXISTS served (
  batch_id TEXT NOT NULL REFERENCES batch (id),
  load     INTEGER NOT NULL,
  guest    INTEGER NOT NULL,
  at       REAL NOT NULL,
  name     TEXT,
  needs    TEXT NOT NULL DEFAULT '',
  pieces   INTEGER NOT NULL,
  PRIMARY KEY (batch_id, load, guest)
) STRICT;
CREATE INDEX IF NOT EXISTS served_by_time ON served (at);

-- Photographs, as they were written anew: no metadata is in them. In the book itself, so that one backup holds all.
CREATE TABLE IF NOT EXISTS photo (
  n          INTEGER PRIMARY KEY AUTOINCREMENT,
  id         TEXT NOT NULL,
  batch_id   TEXT NOT NULL REFERENCES batch (id),
  at         TEXT NOT NULL,
  width      INTEGER NOT NULL,
  height     INTEGER NOT NULL,
  whole      BLOB NOT NULL,
  small      BLOB NOT NULL,
  removed_at TEXT,
  UNIQUE (batch_id, id)
) STRICT;

-- Who said it may be taken out of what was said, once names are forgotten; nothing else of it ever changes.
DROP TRIGGER IF EXISTS journal_note_stays;
CREATE TRIGGER journal_note_stays BEFORE UPDATE ON journal_note
WHEN NEW.id <> OLD.id OR NEW.batch_id <> OLD.batch_id OR NEW.at <> OLD.at OR json_remove(NEW.body, '$.who') <> json_remove(OLD.body, '$.who')
BEGIN SELECT RAISE(ABORT, 'what was said stays'); END;
