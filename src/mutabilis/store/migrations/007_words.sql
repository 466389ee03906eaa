-- What else a line says counts in its verdicts: kept with the version, cleared only by an answer. Only lines that say more have a row.
CREATE TABLE IF NOT EXISTS version_line_beside (
  version_id TEXT NOT NULL,
  position   INTEGER NOT NULL,
  beside     TEXT NOT NULL CHECK (json_valid(beside)),
  PRIMARY KEY (version_id, position),
  FOREIGN KEY (version_id, position) REFERENCES version_line (version_id, position)
) STRICT;

CREATE TRIGGER IF NOT EXISTS version_line_beside_stays BEFORE UPDATE ON version_line_beside BEGIN SELECT RAISE(ABORT, 'a saved version never changes'); END;
CREATE TRIGGER IF NOT EXISTS version_line_beside_kept BEFORE DELETE ON version_line_beside BEGIN SELECT RAISE(ABORT, 'a saved version is never deleted'); END;

-- Words that this kitchen said are preparation, each for the one food of which it said so.
CREATE TABLE IF NOT EXISTS prepared_word (
  word       TEXT NOT NULL CHECK (length(word) BETWEEN 1 AND 80),
  ingredient TEXT NOT NULL CHECK (length(ingredient) <= 80),
  at         TEXT NOT NULL,
  PRIMARY KEY (word, ingredient)
) STRICT;
