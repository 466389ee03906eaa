-- Versions that are meant to be flat: there a lack of lift is no fault.
CREATE TABLE IF NOT EXISTS version_flat (
  version_id TEXT PRIMARY KEY REFERENCES version (id)
) STRICT;
CREATE TRIGGER IF NOT EXISTS version_flat_stays BEFORE UPDATE ON version_flat BEGIN SELECT RAISE(ABORT, 'a saved version never changes'); END;
CREATE TRIGGER IF NOT EXISTS version_flat_kept BEFORE DELETE ON version_flat BEGIN SELECT RAISE(ABORT, 'a saved version is never deleted'); END;
