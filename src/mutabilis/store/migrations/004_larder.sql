-- What this kitchen knows of an ingredient besides the shipped facts: what is in, at what price, its own cup and thirst.
CREATE TABLE larder_item (
  ingredient TEXT PRIMARY KEY CHECK (length(ingredient) BETWEEN 1 AND 80),
  stock_g    REAL CHECK (stock_g >= 0),
  pack       TEXT,
  pack_g     REAL CHECK (pack_g > 0),
  price      REAL CHECK (price >= 0),
  cup_g      REAL CHECK (cup_g > 0),
  tbsp_g     REAL CHECK (tbsp_g > 0),
  absorption REAL CHECK (absorption >= 0),
  updated_at TEXT NOT NULL
) STRICT;

-- Own packs by their label; the body is the label as it was entered.
CREATE TABLE own_pack (
  id          TEXT PRIMARY KEY,
  label       TEXT NOT NULL CHECK (json_valid(label)),
  archived_at TEXT,
  updated_at  TEXT NOT NULL
) STRICT;

-- What someone read on a pack. Never rewritten; a mistake is withdrawn.
CREATE TABLE pack_reading (
  id           TEXT PRIMARY KEY,
  ingredient   TEXT NOT NULL,
  body         TEXT NOT NULL CHECK (json_valid(body)),
  at           TEXT NOT NULL,
  withdrawn_at TEXT
) STRICT;
