-- A batter keeps the cup and spoon it was written in; a weighing keeps the size of the cup or spoon that was weighed.
ALTER TABLE version ADD COLUMN cup_ml REAL;
ALTER TABLE version ADD COLUMN tbsp_ml REAL;
ALTER TABLE larder_item ADD COLUMN tsp_g REAL CHECK (tsp_g > 0);
ALTER TABLE larder_item ADD COLUMN cup_ml REAL CHECK (cup_ml > 0);
ALTER TABLE larder_item ADD COLUMN tbsp_ml REAL CHECK (tbsp_ml > 0);
ALTER TABLE larder_item ADD COLUMN tsp_ml REAL CHECK (tsp_ml > 0);
