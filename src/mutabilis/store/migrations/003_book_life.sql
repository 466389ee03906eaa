-- A batter can be put away and taken out again; what came of making a version is remembered; all of a version is kept.
ALTER TABLE batter ADD COLUMN archived_at TEXT;
ALTER TABLE version ADD COLUMN rest_c REAL NOT NULL DEFAULT 21;
ALTER TABLE version ADD COLUMN blender INTEGER NOT NULL DEFAULT 0;
ALTER TABLE version ADD COLUMN portion_ml REAL;

CREATE TABLE made (
  id           TEXT PRIMARY KEY,
  version_id   TEXT NOT NULL REFERENCES version (id),
  at           TEXT NOT NULL,
  good         INTEGER NOT NULL CHECK (good IN (0, 1)),
  note         TEXT NOT NULL,
  withdrawn_at TEXT
) STRICT;
CREATE INDEX made_by_version ON made (version_id);
CREATE INDEX line_by_ingredient ON version_line (ingredient, version_id);

CREATE VIRTUAL TABLE version_search USING fts5 (
  version_id UNINDEXED, batter_id UNINDEXED, name, ingredients, note,
  tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3'
);
INSERT INTO version_search (version_id, batter_id, name, ingredients, note)
SELECT v.id, v.batter_id, b.name,
       (SELECT coalesce(group_concat(l.text || ' ' || replace(coalesce(l.ingredient, ''), '_', ' '), ' '), '') FROM version_line AS l WHERE l.version_id = v.id),
       v.note
FROM version AS v JOIN batter AS b ON b.id = v.batter_id;
