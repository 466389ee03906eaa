-- What a finished batch is remembered by in lists (faults, packs, what is kept, its figures), so that none is folded for them.
CREATE TABLE IF NOT EXISTS batch_summary (
  batch_id TEXT PRIMARY KEY REFERENCES batch (id) ON DELETE CASCADE,
  body     TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
-- Who made a batch, where that was said.
CREATE TABLE IF NOT EXISTS batch_cook (
  batch_id TEXT PRIMARY KEY REFERENCES batch (id) ON DELETE CASCADE,
  name     TEXT NOT NULL
) STRICT;
