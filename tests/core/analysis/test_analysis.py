"""An analysis: one bowl, totals that are the sum of their lines, a plate that only adds, and nothing that depends on how it was asked."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import all_ledgers, analyse, servings_of
from mutabilis.core.balances.nutrition import per_serving
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import fill
from mutabilis.core.errors import NotKnown
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts
from tests.conftest import BUTTERMILK, COCONUT, CREPE, PLAIN, RIDGE, WAFFLE

FACTS = load_facts()
TEXTS = {"plain": PLAIN, "ridge": RIDGE, "coconut": COCONUT, "buttermilk": BUTTERMILK, "waffle": WAFFLE, "crepe": CREPE}


def looked(text, **more):
    return analyse(Batter(lines=read_lines(text, FACTS, Profile()), **more), FACTS, Profile(), {})


@pytest.mark.parametrize("name", TEXTS)
def test_every_total_is_the_sum_of_its_lines(name):
    """A ledger is a list of contributions before it is a total: what is shown can be traced to a line."""
    a = looked(TEXTS[name])
    for ledger in all_ledgers(a):
        told = sum(c.amount for c in ledger.contributions)
        if ledger.key in ("flow", "sweetness", "fat", "salt", "net_carb", "energy", "protein", "fibre", "sugars"):
            assert told == pytest.approx(ledger.total, rel=1e-6, abs=1e-9), ledger.key
        assert all(0 <= c.line < len(a.batter.lines) and c.rule and c.confidence for c in ledger.contributions), ledger.key
        assert ledger.low is None or ledger.low <= ledger.mark <= ledger.high, ledger.key
        assert ledger.verdict and ledger.reason and ledger.unit, ledger.key
    assert len({ledger.key for ledger in all_ledgers(a)}) == len(all_ledgers(a))


@pytest.mark.parametrize("name", TEXTS)
@given(factor=st.floats(0.3, 8))
def test_a_larger_batter_is_the_same_batter(name, factor):
    a, b = looked(TEXTS[name]), analyse(looked(TEXTS[name]).batter.scaled(factor), FACTS, Profile(), {})
    assert b.batter_g == pytest.approx(factor * a.batter_g) and b.nutrition.kcal == pytest.approx(factor * a.nutrition.kcal)
    assert b.water.spread_cm == pytest.approx(a.water.spread_cm) and b.setting.per_100g == pytest.approx(a.setting.per_100g)
    assert b.lift.co2_ml_per_100g == pytest.approx(a.lift.co2_ml_per_100g) and b.ledger("salt").mark == pytest.approx(a.ledger("salt").mark)
    assert b.yields.pieces == pytest.approx(factor * a.yields.pieces, rel=1e-3)


def test_it_carries_the_bowl_that_it_was_made_from():
    a = looked(RIDGE, rest_min=25.0)
    assert a.bowl == fill(a.batter, FACTS) and a.bowl.rest_min == 25 and a.bowl.batter_g == a.batter_g
    assert a.bowl.total("sodium") == a.sodium_mg == a.plate.sodium_mg


def test_the_order_of_the_lines_changes_nothing():
    lines = RIDGE.splitlines()
    a, b = looked("\n".join(lines)), looked("\n".join(reversed(lines)))
    assert a.water.spread_cm == pytest.approx(b.water.spread_cm) and a.nutrition.kcal == pytest.approx(b.nutrition.kcal)
    assert a.contains == b.contains and a.may_contain == b.may_contain and {w.code for w in a.warnings} == {w.code for w in b.warnings}


def test_the_plate_only_adds():
    a, b = looked(PLAIN), looked(PLAIN + "\nTo serve:\n60 g maple syrup\n20 g butter\n15 g walnuts")
    assert b.batter_g == a.batter_g and b.nutrition.kcal == pytest.approx(a.nutrition.kcal) and b.plate.lines == 3
    assert b.plate.nutrition.kcal > b.nutrition.kcal and b.plate.sodium_mg >= b.sodium_mg
    assert set(b.plate.contains) > set(b.contains) and any(
        "walnut" in c or "tree_nut" in c for c in set(b.plate.contains) - set(b.contains)
    )


def test_what_decides_for_the_plate_is_said_first():
    """A doubt on the plate does not stand before what surely does not fit in the bowl."""
    lines = read_lines(PLAIN + "\nTo serve:\nmargarine for spreading", FACTS, Profile())
    b = analyse(Batter(lines=lines), FACTS, Profile(), FACTS.diets)
    assert any(r.verdict == "cannot_vouch" and "margarine" in r.text for r in b.plate.diets["vegan"].reasons)
    for judged in b.plate.diets.values():
        assert not judged.reasons or judged.reasons[0].verdict == judged.verdict


def test_servings_are_as_said_or_by_the_form():
    form = FACTS.forms["griddle"]
    a = looked(PLAIN)
    assert a.servings == pytest.approx(a.batter_g / form.serving_g) and looked(PLAIN, servings=3.0).servings == 3
    assert servings_of(Batter(lines=()), fill(Batter(lines=()), FACTS)) > 0  # nothing is divided by nought
    each = per_serving(a.nutrition, a.sodium_mg, 4)
    assert each["kcal"] == pytest.approx(a.nutrition.kcal / 4) and each["sodium_mg"] == pytest.approx(a.sodium_mg / 4)


def test_a_ledger_is_found_by_its_key_and_told_per_piece():
    a = looked(PLAIN)
    fat = a.ledger("fat")
    assert a.per_piece(fat) == pytest.approx(fat.total / a.yields.pieces)
    with pytest.raises(NotKnown):
        a.ledger("moonlight")
    empty = analyse(Batter(lines=()), FACTS, Profile(), {})
    assert empty.per_piece(empty.ledger("fat")) == 0 and empty.batter_g == 0
