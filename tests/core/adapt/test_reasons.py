"""What an answer says for itself: every change explained, in words, with the figures apart; what is lost; what to do differently."""

import re

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.reasons import WORTH_A_WORD, _doing
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.batter.batter import Batter
from mutabilis.core.reading.reading import read_lines
from tests.reference.kinds import GUESTS, kinds
from tests.sizes import many

FIGURE = re.compile(r"\d+(?:\.\d+)? ?(?:g|mg|meq|mmol|mL|kcal|%)\b")


@pytest.fixture(scope="module")
def solve(facts, profile):
    def run(text, form="griddle", **wishes):
        found = adapt(Batter(lines=read_lines(text, facts, profile), form=form), Wishes(**wishes), facts, profile)
        return found.answers[0] if found.answers else found.infeasible.nearest

    return run


def grams(batter):
    return {x.ingredient: x.grams for x in batter.lines if x.counts and x.ingredient}


@settings(max_examples=many(20), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.integers(0, 27), st.sampled_from(sorted(GUESTS)))
def test_every_line_that_moved_has_its_reason_and_no_sum_in_it(facts, profile, at, guest):
    """Over the kinds: what left, what came and what moved by a fiftieth is told; the sentence holds no arithmetic, the figures do."""
    kind = list(kinds(facts, profile))[at]
    found = adapt(kind.batter, GUESTS[guest], facts, profile)
    for answer in found.answers:
        was, now = grams(found.base.batter), grams(answer.analysis.batter)
        told = {c.source_id for c in answer.changes} | {c.target_id for c in answer.changes}
        moved = {k for k in was | now if k not in was or k not in now or abs(was[k] - now[k]) > max(0.025 * was[k], 0.1)}
        assert moved <= told, moved - told
        assert answer.reasons and all(r.endswith(".") and len(r) > 10 for r in answer.reasons)
        for c in answer.changes:
            assert not FIGURE.search(c.reason.replace("71 °C", "")), c.reason
            assert "None" not in c.reason and "  " not in c.reason


def test_a_change_names_what_takes_over_and_how_it_is_used(solve):
    answer = solve("200 g flour\n300 g milk\n2 eggs\n10 g baking powder\n40 g butter\n30 g sugar", diets=("vegan", "gluten_free"))
    by = {c.source_id: c for c in answer.changes if c.source_id}
    assert "binds" in by["egg"].reason and "of set" in by["egg"].figures
    assert "brings the liquid" in by["whole_milk"].reason and "of water" in by["whole_milk"].figures
    assert "The taste of butter goes" in by["butter"].reason
    assert {c.target_id for c in answer.changes if c.target_id} <= {x.ingredient for x in answer.analysis.batter.lines}


def test_what_is_folded_in_is_replaced_by_its_kind_and_does_nobody_elses_work(solve):
    answer = solve("200 g flour\n300 g milk\n2 eggs\n10 g baking powder\n100 g milk chocolate chips", diets=("vegan",))
    chips = next(c for c in answer.changes if c.source_id == "milk_chocolate_chips")
    assert chips.target_id == "dark_chocolate_chip_free" and "in its place" in chips.reason
    assert not any(t.source == "milk_chocolate_chips" or t.target == "dark_chocolate_chip_free" for t in answer.transfers)


@pytest.mark.parametrize(
    ("text", "diets", "words"),
    [
        ("200 g flour\n300 g milk\n2 eggs\n60 g brown butter\n10 g baking powder", ("dairy_free",), "toast a fifth of the flour"),
        ("200 g flour\n300 g milk\n2 eggs\n10 g baking powder\n40 g honey", ("vegan",), "a syrup the guest can have"),
        (
            "150 g rye flour\n80 g flour\n300 g milk\n2 eggs\n10 g baking powder",
            ("gluten_free",),
            "the taste of rye goes: nothing allowed brings it back",
        ),
    ],
)
def test_a_taste_that_goes_is_made_good_or_said_to_be_lost(text, diets, words, solve):
    assert any(words in w for w in solve(text, diets=diets).worse)


def test_browned_butter_is_made_good_with_milk_powder_where_the_diet_allows_it(solve):
    """Butter struck, milk allowed: a spoon of milk powder browns; without dairy the flour is toasted."""
    text = "200 g flour\n300 g milk\n2 eggs\n60 g brown butter\n10 g baking powder"
    struck, without = solve(text, bans=("brown_butter", "butter")), solve(text, diets=("dairy_free",))
    assert any("milk powder" in w for w in struck.worse) and not any("milk powder" in w for w in without.worse)


@pytest.mark.parametrize(
    ("functions", "words"),
    [
        (["set"], "binds"),
        (["flour", "set"], "gives the body and binds"),
        (["water", "fat"], "brings the liquid and the fat"),
        (["set", "acid", "water"], "binds, sours and brings the liquid"),
        (["water", "salt"], "brings the liquid"),
        (["salt"], "salts"),
    ],
)
def test_work_in_words(functions, words):
    assert _doing(functions) == words


def test_new_allergens_come_first_and_cautions_fit_the_answer(solve):
    answer = solve("200 g flour\n300 g milk\n2 eggs\n10 g baking powder\n40 g butter", diets=("vegan",))
    assert "soy" in answer.adds and answer.cautions[0].startswith("Adds soy")
    lean = solve("200 g flour\n300 g milk\n2 eggs\n10 g baking powder\n30 g sugar", diets=("low_carb",), caps={"net_carb_g": 8.0})
    assert not any("The milk was replaced" in c or "Eggs hold" in c for c in lean.cautions)  # nobody asked for less milk or egg


def test_what_is_bought_certified_is_said_to_stand_in_its_own_place(solve):
    """Rice and dal both give the body: each is followed by its own, not by whichever took over most of the work."""
    answer = solve("300 g rice\n100 g urad dal\n6 g salt\n500 ml water", "crepe", diets=("gluten_free",))
    swapped = {c.source_id: c for c in answer.changes if c.source_id and c.target_id != c.source_id}
    assert len(swapped) == 2 and all(c.target_id == f"{id_}_gf" and "in its place" in c.reason for id_, c in swapped.items())
    assert all(c.source_id for c in answer.changes), "nothing is said to be new"


def test_what_is_whipped_is_what_is_in_the_bowl(solve):
    text = "150 g plain flour\n200 g milk\n2 eggs, separated, whites whipped\n6 g baking powder\n20 g sugar\n30 g butter"
    for diets, foam in ((("gluten_free",), "the whites"), (("vegan",), "the aquafaba")):
        said = [s for s in solve(text, diets=diets).technique if "whip" in s.lower() or "foam" in s]
        assert len(said) == 1 and said[0].startswith(f"Whip {foam} apart"), said


def test_a_technique_is_said_once(solve):
    answer = solve("200 g flour\n300 g milk\n2 eggs\n10 g baking powder", diets=("vegan", "gluten_free"))
    said = [*answer.technique, *answer.reasons]
    assert len(answer.technique) == len(set(answer.technique))
    assert sum("whisk it smooth" in s for s in said) == 1
    assert 0 < WORTH_A_WORD < 1
