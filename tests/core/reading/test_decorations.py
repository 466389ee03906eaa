"""No decoration drawn from the data makes a verdict safer: for names of every row, wishes, other foods, unknown words and slips of the pen."""

import random
import tomllib
from importlib.resources import files

import pytest

from mutabilis.core.diets.verdicts import WORST, judge
from mutabilis.core.food.naming import words_of
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from tests.sizes import many

NAMES = [n for ns in tomllib.loads(files("mutabilis.data").joinpath("names.toml").read_text())["aliases"].values() for n in ns]
RULES = (
    "vegan",
    "vegetarian",
    "egg_free",
    "dairy_free",
    "gluten_free",
    "nut_free",
    "peanut_free",
    "soy_free",
    "wheat_free",
    "lactose_free",
)
CLAIMS = ("gluten-free", "dairy-free", "vegan", "plant-based", "egg-free", "nut-free", "certified gluten-free", "lactose-free")
WISHES = (
    "{x} ({c} if needed)",
    "{x}, {c} if preferred",
    "{x} (use {c} if vegan)",
    "{x}, ideally {c}",
    "{c} {x} if needed",
    "{x}, {c} works too",
    "{c} {x}, ideally",
)
BESIDE = ("{x} or {y}", "{x}/{y}", "{x} ({y})", "{x}, {y}", "{x} with {y}", "{x} and {y}", "{x} & {y}", "{x}, or {y}", "{x}, such as {y}", "{x} (contains {y})", "{x}, coated in {y}", "{x}; I used {y}", "{x} - {y}", "{x} plus {y}", "{x} [{y} if needed]", "{y} or {x}")  # fmt: skip
ODD = ("{x}, {u}", "{u} {x}", "{x} ({u})", "{x} with {u}", "{x} or {u}", "{x} {u}", "{x} - {u}", "{x}/{u}", "{x}, chopped, {u}")
UNKNOWN = ("zorbled", "frastened", "œuf", "молоко", "crambly", "X7")


def ranks(text, facts, profile):
    lines = read_lines(text, facts, profile)
    where = {line.where for line in lines}
    return [max(WORST.index(judge(lines, facts.diets[k], facts, profile, where=w).verdict) for w in where) for k in RULES]


@pytest.fixture(scope="module")
def spoken(facts):
    """The names that are read where they stand alone."""
    return sorted({n for n in NAMES if read_lines(f"100 g {n}", facts, Profile())[0].ingredient})


@pytest.mark.parametrize("seed", range(many(2)))
def test_no_decoration_makes_a_verdict_safer(seed, spoken, facts, profile):
    rnd = random.Random(seed)
    known = {frozenset(words_of(n)) for n in NAMES}
    plain = {n: ranks(f"100 g {n}", facts, profile) for n in rnd.sample(spoken, 250)}
    for x, alone in plain.items():
        y, c, u = rnd.choice(list(plain)), rnd.choice(CLAIMS), rnd.choice(UNKNOWN)
        text = "100 g " + rnd.choice(WISHES).format(x=x, c=c)
        assert all(a >= b for a, b in zip(ranks(text, facts, profile), alone, strict=True)), text
        text = "100 g " + rnd.choice(ODD).format(x=x, u=u)
        assert all(ranks(text, facts, profile)), text
        if frozenset(words_of(f"{x} {y}")) not in known:
            text = "100 g " + rnd.choice(BESIDE).format(x=x, y=y)
            got = ranks(text, facts, profile)
            assert not any(g == 0 and (a or b) for g, a, b in zip(got, alone, plain[y], strict=True)), text
