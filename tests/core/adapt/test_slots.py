"""Each kind of answer is what its name says, in its place, with a fact that holds; an empty one says why."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.slots import AS_CLOSE, LABELS
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.balances.nutrition import per_serving
from tests.conftest import BUTTERMILK, RIDGE, WAFFLE

IN = ("oat_flour_gf", "cornstarch", "soy_drink", "oat_drink", "flax_meal", "sunflower_oil", "rapeseed_oil", "fine_sea_salt", "baking_powder_gf", "brown_sugar", "cane_sugar", "apple_cider_vinegar", "rice_flour_gf", "aquafaba")  # fmt: skip


def protein(answer):
    a = answer.analysis
    return per_serving(a.nutrition, a.sodium_mg, a.servings)["protein_g"]


@pytest.fixture(scope="module", params=[(RIDGE, "griddle", ("vegan", "gluten_free")), (WAFFLE, "waffle", ("dairy_free",)), (BUTTERMILK, "griddle", ("egg_free",))], ids=["ridge", "waffle", "buttermilk"])  # fmt: skip
def found(request, facts, profile, batter):
    text, form, diets = request.param
    asked = batter(text, form, servings=4.0)
    return asked, {n: adapt(asked, Wishes(diets=diets, alternatives=n, at_hand=IN), facts, profile) for n in (1, 5)}


def test_every_kind_stands_in_its_place_with_an_answer_or_the_reason_why_not(found):
    slots = found[1][5].slots
    assert [s.kind for s in slots] == list(LABELS)
    assert all((s.answer is None) == bool(s.empty) and (s.answer is None) != bool(s.fact) for s in slots)
    kinds = [s.answer.kind for s in slots if s.answer]
    assert len(kinds) == len(set(kinds))  # no answer twice
    one = found[1][1].slots
    assert [s.kind for s in one] == ["nearest"] and one[0].answer.kind == slots[0].answer.kind


def test_each_answer_is_what_it_is_called(found):
    base, answers = found
    slot = {s.kind: s for s in answers[5].slots}
    nearest = slot["nearest"].answer
    had = {"water", *IN}
    buys = lambda a: len(a.kind - had)  # noqa: E731
    if larder := slot["larder"].answer:
        assert buys(larder) == 0 and slot["larder"].fact == "nothing to buy"
    if least := slot["least_to_buy"].answer:
        assert buys(least) < buys(nearest)
    if most := slot["most_protein"].answer:
        assert protein(most) > protein(nearest) * 1.1
        assert (
            f"{protein(most):.0f} g of protein" in slot["most_protein"].fact
            and f"nearest has {protein(nearest):.0f} g" in slot["most_protein"].fact
        )
    if few := slot["simplest"].answer:
        assert len(few.kind) < len(nearest.kind) and slot["simplest"].fact.startswith(f"{len(few.kind)} thing")
    for s in slot.values():
        assert s.answer is None or s.answer.score >= AS_CLOSE * nearest.score
    new = nearest.kind - {x.ingredient for x in base.lines}
    assert slot["nearest"].fact.startswith(str(len(new)) if new else "nothing new")


def test_a_larder_that_is_not_kept_is_said_to_be(facts, profile, batter):
    slots = adapt(batter(RIDGE), Wishes(diets=("vegan",), alternatives=5), facts, profile).slots
    assert next(s for s in slots if s.kind == "larder").empty.startswith("The Larder is not kept yet")
