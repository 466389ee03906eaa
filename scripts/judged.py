"""Write docs/judged.md: every answer to the kinds of batter, with what a baker says of it."""

from pathlib import Path

from tests.reference.kinds import judged
from tests.reference.verdicts import document

from mutabilis.data import load_facts

HEAD = """# Judged as a baker: twenty-eight kinds, seven guests

Recipes of our own (`tests/reference/kinds.txt`), a kind of batter each: yeast, steam, foam, curd, discard, single grain, nut, pulse, lean.
**a** a baker would make it as it is; **b** after a tweak; **c** never. A right refusal is a, where its nearest can be made. Low-carb asks
for 8 g of net carbohydrate a serving.

Read with care: judged by those who wrote the rules, not blind, and not baked. What a screen can tell without a baker (flour cut, fat
poured in, pulses stacked, gas over kept foam, residues, doubles, protein lost, eggs in parts, a plate that does not fit) is tested over
these and over the grid in `tests/reference/test_kinds.py`: none is flagged. Where an answer changes, the test of this table fails, and the
line is looked at again before it is written anew (`.venv/bin/python -m scripts.judged`; the verdicts stand in
`tests/reference/verdicts.csv`).

"""

if __name__ == "__main__":
    facts = load_facts()
    Path("docs/judged.md").write_text(HEAD + document(judged(), facts) + "\n", encoding="utf-8")
