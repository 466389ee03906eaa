-- How a version is made, where its cook chose: the order of the bowls, when the leavening is wetted, the whites, its tray.
CREATE TABLE IF NOT EXISTS version_ways (
  version_id TEXT PRIMARY KEY REFERENCES version (id),
  body       TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
CREATE TRIGGER IF NOT EXISTS version_ways_stays BEFORE UPDATE ON version_ways BEGIN SELECT RAISE(ABORT, 'a saved version never changes'); END;
CREATE TRIGGER IF NOT EXISTS version_ways_kept BEFORE DELETE ON version_ways BEGIN SELECT RAISE(ABORT, 'a saved version is never deleted'); END;
