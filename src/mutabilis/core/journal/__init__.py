"""What was made and what came of it: entries, comparisons, trends, and the way of a pack to the guests."""
