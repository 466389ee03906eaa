-- Bags of dry mix: of which version, how much was made, until when it keeps, what of it is left. `left_g` is corrected by hand; each batch that
-- is started from a bag takes its grams off it once.
CREATE TABLE IF NOT EXISTS dry_mix (
  id         TEXT PRIMARY KEY,
  version_id TEXT NOT NULL REFERENCES version (id),
  body       TEXT NOT NULL CHECK (json_valid(body)),
  made_at    TEXT NOT NULL,
  use_by     TEXT NOT NULL,
  left_g     REAL NOT NULL CHECK (left_g >= 0),
  away_at    TEXT
) STRICT;
CREATE INDEX IF NOT EXISTS dry_mix_by_version ON dry_mix (version_id);
CREATE TRIGGER IF NOT EXISTS dry_mix_stays BEFORE UPDATE OF version_id, body, made_at ON dry_mix BEGIN SELECT RAISE(ABORT, 'what is in a bag never changes'); END;

CREATE TABLE IF NOT EXISTS batch_mix (
  batch_id TEXT PRIMARY KEY REFERENCES batch (id),
  mix_id   TEXT NOT NULL REFERENCES dry_mix (id),
  name     TEXT NOT NULL,
  grams    REAL NOT NULL CHECK (grams > 0)
) STRICT;
CREATE TRIGGER IF NOT EXISTS batch_mix_stays BEFORE UPDATE ON batch_mix BEGIN SELECT RAISE(ABORT, 'what a batch was started from never changes'); END;
