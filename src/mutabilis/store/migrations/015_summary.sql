-- What a finished batch is remembered by in lists (faults, packs, what is kept), so that none is folded for them; and who made it.
CREATE TABLE IF NOT EXISTS batch_summary (
  batch_id TEXT PRIMARY KEY REFERENCES batch (id) ON DELETE CASCADE,
  body     TEXT NOT NULL
) STRICT;
ALTER TABLE batch ADD COLUMN cook TEXT NOT NULL DEFAULT '';
