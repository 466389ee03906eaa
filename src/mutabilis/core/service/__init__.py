"""A whole breakfast: who eats what, the fewest batters that serve all, which surface when, and what begins at which second."""
