-- Every pack that is or ever was in use, as a thing: product and lot as it was called, its days; emptied on the day another took its place.
-- What the Larder says of the pack in use beside its name stands here alone.
CREATE TABLE IF NOT EXISTS pack_used (
  ingredient  TEXT NOT NULL,
  product     TEXT NOT NULL,
  lot         TEXT NOT NULL,
  best_before TEXT,
  opened      TEXT,
  emptied     TEXT,
  PRIMARY KEY (ingredient, product, lot)
) STRICT;
