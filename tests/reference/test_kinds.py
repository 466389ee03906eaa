"""Twenty-eight kinds of batter and the demo's own, for the usual guests: no answer that a baker would send back at a glance."""

from pathlib import Path

import pytest

from tests.reference.kinds import GUESTS, Judged, judged, screened
from tests.reference.verdicts import document

DOC = Path(__file__).parents[2] / "docs/judged.md"


@pytest.fixture(scope="module")
def found() -> list[Judged]:
    return judged()


def test_the_screens_over_the_kinds(found, facts):
    flags = {
        (j.kind, j.guest): flags
        for j in found
        if (flags := screened(j.found.base, j.found, GUESTS[j.guest].diets, j.guest == "low-carb", facts))
    }
    assert not flags
    assert len({j.kind for j in found}) >= 20 and sum(bool(j.found.answers) for j in found) > 0.8 * len(found)


def test_every_kind_is_read_whole(found):
    assert not [line.text for j in found for line in j.found.base.batter.lines if line.unresolved]


def test_what_cannot_be_done_says_why(found):
    """An almond cake without its egg holds by something else, or is refused; a dish of one grain is not made low in carbohydrate."""
    for j in found:
        if not j.found.answers:
            assert j.found.infeasible.reasons and j.shown is not None, (j.kind, j.guest)
        elif "egg" in j.guest or "vegan" in j.guest:
            nutty = any(x.ingredient == "almond_flour" for x in j.found.base.batter.lines)
            assert not nutty or j.found.answers[0].analysis.setting.per_100g >= 0.25


def test_an_oven_pancake_without_gluten_is_said_not_to_climb(found):
    by = {j.guest: j.found for j in found if j.kind == "Puffed oven pancake"}
    assert any("climb" in w for w in by["gluten-free"].answers[0].worse)
    assert any("will not climb" in w for w in by["vegan"].answers[0].worse)
    assert not any("climb" in w for w in by["dairy-free"].answers[0].worse)


def test_low_carb_waffles_are_crisp_by_egg_and_fat(found, facts):
    for j in found:
        if j.guest == "low-carb" and j.found.base.batter.form == "waffle" and j.found.answers and j.found.answers[0].score < 0.9:
            was, now = ({x.ingredient: x.grams for x in a.batter.lines} for a in (j.found.base, j.found.answers[0].analysis))
            drinks = [sum(g for i, g in m.items() if facts.ingredients[i].group in ("milk", "plant_milk")) for m in (was, now)]
            assert now["egg"] > was["egg"] and drinks[1] < 0.75 * drinks[0], j.kind


def test_every_answer_was_judged(found, facts):
    """docs/judged.md is of these very answers: where one has changed it is looked at again (`python -m scripts.judged`)."""
    assert document(found, facts) in DOC.read_text(encoding="utf-8")
