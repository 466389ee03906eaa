-- What is said of a batch after it is over: remarks, faults and in which loads, answers to questions, the change that is taken along. Only
-- ever added to; what was said last stands.
CREATE TABLE IF NOT EXISTS journal_note (
  n        INTEGER PRIMARY KEY AUTOINCREMENT,
  id       TEXT NOT NULL UNIQUE,
  batch_id TEXT NOT NULL REFERENCES batch (id),
  at       TEXT NOT NULL,
  body     TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
CREATE INDEX IF NOT EXISTS journal_note_by_batch ON journal_note (batch_id, n);
CREATE TRIGGER IF NOT EXISTS journal_note_stays BEFORE UPDATE ON journal_note BEGIN SELECT RAISE(ABORT, 'what was said stays'); END;
