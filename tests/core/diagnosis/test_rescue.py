"""What of a correction can still be done to the batch in hand."""

import pytest

from mutabilis.core.diagnosis.corrections import Correction
from mutabilis.core.diagnosis.rescue import rescued
from mutabilis.core.heat.surfaces import Surface
from mutabilis.core.stove.fold import LineState, State
from mutabilis.core.stove.guide.guide import Guide
from tests.core.stove.making import batch, event, poured_all


def ANYTHING(_):
    return True


MILK = LineState(at=0, ingredient="whole_milk", planned=300, target=300, poured=200, done=True)
SUGAR = LineState(at=1, ingredient="sugar", planned=40, target=40, poured=10)
OPEN = State(lines=(MILK, SUGAR))


def more(ingredient="whole_milk", grams=60.0, **also):
    return Correction(change="liquid", ingredient=ingredient, grams=grams, also=also)


@pytest.mark.parametrize(
    "fixed, left, targets",
    [
        (more(), 1.0, {0: 260.0}),  # on what was poured, not on what was planned
        (more(), 0.5, {0: 230.0}),  # half of the bowl takes half of it
        (more(baking_powder=4.0, baking_soda=1.0), 1.0, {0: 260.0, 2: 4.0, 3: 1.0}),  # what was not there gets lines of its own
        (more("sugar", 6.0), 1.0, {1: 46.0}),  # still to come: on what it is to weigh
        (more("sugar", -25.0), 1.0, {1: 15.0}),  # and less of it can still come
    ],
)
def test_what_is_added_comes_on_top_of_what_is_in(fixed, left, targets, facts):
    found = rescued(fixed, OPEN, left, facts.ingredients, ANYTHING)
    assert found.does == "add" and {t.line: t.grams for t in found.targets} == targets and ("what is left" in found.words) == (left < 1)


@pytest.mark.parametrize(
    "fixed, left",
    [
        (more(grams=-50.0), 1.0), (more("sugar", -31.0), 1.0), (more("baking_soda", -1.0), 1.0), (more(sugar=-40.0), 1.0),  # what is in stays in
        (more(), 0.05), (more(grams=0.04), 1.0), (Correction(change="words", words="Rest it."), 1.0),
        (Correction(change="heat", to=190.0), 1.0), (Correction(change="portion", to=40.0), 1.0),  # nothing was chosen to cook on
    ],
)  # fmt: skip
def test_what_cannot_be_done_any_more_is_for_the_next_batch(fixed, left, facts):
    found = rescued(fixed, OPEN, left, facts.ingredients, ANYTHING)
    assert (found.does, found.targets, found.celsius, found.portion_ml) == ("nothing", (), None, None) and found.words.endswith(".")


def test_what_a_guest_may_not_have_is_never_added(facts):
    mixed = more(baking_powder=4.0)
    assert rescued(mixed, OPEN, 1.0, facts.ingredients, lambda i: i != "baking_powder").does == "nothing"
    assert rescued(more(), OPEN, 1.0, facts.ingredients, lambda _: False).does == "add"  # what is in it already was judged with it


def test_what_lies_on_the_plate_or_is_at_an_end_is_not_what_the_bowl_takes(facts):
    """Sugar on the plate is no line of the bowl: more of it there is a line of its own; of what there is no more, nothing is added."""
    found = rescued(more("sugar", 6.0), OPEN, 1.0, facts.ingredients, ANYTHING, frozenset({1}))
    assert {t.line: t.grams for t in found.targets} == {2: 6.0}
    assert rescued(more("sugar", 6.0), OPEN, 1.0, facts.ingredients, lambda _: False, frozenset({1})).does == "nothing"
    gone = State(lines=(MILK, LineState(at=1, ingredient="sugar", planned=40, target=40, poured=10, none_left=True)))
    nothing = rescued(more("sugar", 6.0), gone, 1.0, facts.ingredients, ANYTHING)
    assert nothing.does == "nothing" and "There is no more" in nothing.words


def test_heat_and_scoop_are_set_on_the_surface_in_use(facts):
    surface: Surface = facts.surfaces[0]
    chosen = event("surface_chosen", surface=surface.model_dump(mode="json"), celsius=200, portion_ml=80, per_load=4)
    hot = State(lines=(MILK,), chosen=chosen)
    assert rescued(Correction(change="heat", to=185.0), hot, 1.0, facts.ingredients, ANYTHING).celsius == 185.0
    assert rescued(Correction(change="portion", to=40.0), hot, 1.0, facts.ingredients, ANYTHING).portion_ml == 40.0
    assert rescued(Correction(change="portion", to=6000.0), hot, 1.0, facts.ingredients, ANYTHING).does == "nothing"  # no scoop holds that
    assert rescued(Correction(change="heat", to=185.0), hot, 0.01, facts.ingredients, ANYTHING).does == "nothing"


@pytest.mark.parametrize("loads", [0, 1])
def test_a_line_that_was_done_is_weighed_again_for_what_is_added_and_none_of_it_is_held_back(loads, batter, facts, profile):
    plan = batter("160 g plain flour\n70 g rye flour\n300 g whole milk\n2 eggs\n10 g baking powder")
    surface = facts.surfaces[0].model_dump(mode="json")
    cooked = [event("surface_chosen", surface=surface, celsius=190, portion_ml=60, per_load=4), event("load_on", load=0, pieces=4)][
        : 2 * loads
    ]
    target = {"line": 2, "ingredient": "whole_milk", "grams": 350.0}
    g = Guide(batch(plan, *poured_all(plan, facts), *cooked, event("retargeted", targets=[target])), 2000.0, facts, profile)
    milk = next(x for x in g.lines if x.ingredient == "whole_milk")
    assert (milk.missing, milk.held, milk.settled) == (pytest.approx(50.0), 0.0, False) and g.current == milk
    assert g.share_left == 1.0 if not loads else 0.3 < g.share_left < 0.9
