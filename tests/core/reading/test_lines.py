"""Verdicts on lines as cooks scribble them: what must never be said to fit, and what is too plain to be asked about."""

from pathlib import Path

import pytest

from mutabilis.core.diets.verdicts import judge
from mutabilis.core.reading.reading import read_lines

DIETS = {
    "V": "vegan", "v": "vegetarian", "E": "egg_free", "D": "dairy_free", "G": "gluten_free", "N": "nut_free", "P": "peanut_free", "S": "soy_free",
    "W": "wheat_free",
}  # fmt: skip
ROWS = [row for row in Path(__file__).with_name("lines.txt").read_text(encoding="utf-8").splitlines() if row and not row.startswith("#")]


def verdicts(text, facts, profile):
    """The worst verdict of each diet on a line, in the bowl and on the plate."""
    lines = read_lines(text, facts, profile)
    where = {line.where for line in lines}
    return {key: {judge(lines, facts.diets[diet], facts, profile, where=w).verdict for w in where} for key, diet in DIETS.items()}


@pytest.mark.parametrize("row", ROWS)
def test_a_line_is_never_safer_than_it_is(row, facts, profile):
    text, _, wanted = row.partition(" | ")
    never, _, fits = wanted.strip(" |").partition("+")
    found = verdicts(text.removesuffix(" |"), facts, profile)
    assert not [key for key in never.strip() if found[key] == {"fits"}], found
    assert not [key for key in fits.strip() if found[key] != {"fits"}], found
