-- What else a line says counts in its verdicts: kept with the version, cleared only by an answer.
ALTER TABLE version_line ADD COLUMN beside TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(beside));

-- Words that this kitchen said are preparation, each for the one food of which it said so.
CREATE TABLE prepared_word (
  word       TEXT NOT NULL CHECK (length(word) BETWEEN 1 AND 80),
  ingredient TEXT NOT NULL CHECK (length(ingredient) <= 80),
  at         TEXT NOT NULL,
  PRIMARY KEY (word, ingredient)
) STRICT;
