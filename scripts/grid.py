"""Write docs/grid.md: what flow, lift, set and sweetness come to for every demo batter and every diet."""

from pathlib import Path

from tests.reference.grid import cases, table

from mutabilis.core.measures.profile import Profile
from mutabilis.data import load_facts

HEAD = """# The grid: every demo batter, every shipped diet, and the usual pairs and triples

Each line is the first answer of one adaptation: what was → what will be. Flow is the spread of 60 mL on a cold plate, held within 3 % in
yield stress after rounding to a scale; lift is held within a tenth or inside the band of the form; set at or above its floor; no new
ingredient beyond what craft allows. `tests/reference/test_grid.py` checks all of it and that this table is current
(`.venv/bin/python -m scripts.grid` writes it). Closeness is 1 where the base is its own answer.

What cannot be done is said with its reason; the nearest that can is offered beside it.

"""

if __name__ == "__main__":
    facts = load_facts()
    Path("docs/grid.md").write_text(HEAD + table(cases(facts, Profile()), facts) + "\n", encoding="utf-8")
