"""Too much, none left, eggs as they are: the offers keep what they promise."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import Batter
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.fold import fold, will_be
from mutabilis.core.stove.mending import NEAR_CM, NEAR_LIFT, Mender
from mutabilis.data import load_facts
from tests.conftest import BUTTERMILK, COCONUT, PLAIN, RIDGE, WAFFLE
from tests.sizes import many

from .making import event

FACTS, PROFILE = load_facts(), Profile()
PLANS = {
    name: Batter(lines=read_lines(text, FACTS, PROFILE), form=form)
    for name, text, form in (("ridge", RIDGE, "griddle"), ("plain", PLAIN, "griddle"), ("buttermilk", BUTTERMILK, "griddle"), ("waffle", WAFFLE, "waffle"), ("coconut", COCONUT, "griddle"))
}  # fmt: skip


def taken(plan, events, offer):
    """The batter that comes of an offer, by the same fold that keeps the batch."""
    targets = [t.model_dump() for t in offer.targets]
    state = fold(plan, [*events, event("retargeted", targets=targets)])
    return state, analyse(will_be(plan, state, FACTS.ingredients), FACTS, PROFILE, {})


def lift_of(a):
    return a.ledger("lift").mark


@settings(max_examples=many(60))
@given(st.sampled_from(sorted(PLANS)), st.data())
def test_the_offers_keep_flow_and_lift_as_they_promise(name, data):
    plan = PLANS[name]
    at = data.draw(st.integers(0, len(plan.lines) - 1))
    more = data.draw(st.floats(1.05, 1.9))
    done = data.draw(st.sets(st.integers(0, len(plan.lines) - 1)))
    events = [event("poured", line=k, slot=0, grams=plan.lines[k].grams) for k in sorted(done - {at})]
    events.append(event("poured", line=at, slot=0, grams=plan.lines[at].grams * more))
    before = analyse(plan, FACTS, PROFILE, {})
    offers = Mender(plan, fold(plan, events), FACTS, PROFILE).over(at)
    assert {"carry_on", "raise"} <= {o.key for o in offers}
    assert [len(o.keeps) for o in offers] == sorted((len(o.keeps) for o in offers), reverse=True)  # what keeps most is offered first
    for offer in offers:
        state, after = taken(plan, events, offer)
        # What is told is what comes: the offer's own figures are those of the batter that the fold then holds.
        told = {m.key: m.after for m in offer.moved}
        assert told["flow"] == pytest.approx(after.water.spread_cm, abs=1e-6) if after.water.spread_cm else told["flow"] is None
        assert told["lift"] == pytest.approx(lift_of(after)) and offer.pieces == pytest.approx(after.yields.pieces)
        assert all(
            x.target >= x.poured - 1e-6 for x in state.lines if x.at in {t.line for t in offer.targets}
        )  # nothing is taken out again
        if "flow" in offer.keeps:
            assert abs(after.water.spread_cm - before.water.spread_cm) <= NEAR_CM
        if "lift" in offer.keeps:
            assert abs(lift_of(after) - lift_of(before)) <= max(NEAR_LIFT * lift_of(before), 3)
        if offer.key == "raise":
            assert set(offer.keeps) == {"flow", "lift"}
            assert after.yields.pieces == pytest.approx(before.yields.pieces * more, rel=0.02)
        if offer.key == "correct":
            assert "flow" in offer.keeps and len(offer.targets) == 1


@pytest.mark.parametrize("factor", [0.8, 1.1, 1.25])
def test_eggs_weigh_what_they_weigh_and_the_liquid_follows(factor):
    plan = PLANS["ridge"]
    eggs = next(k for k, x in enumerate(plan.lines) if x.ingredient == "egg")
    events = [event("poured", line=eggs, slot=0, grams=plan.lines[eggs].grams * factor)]
    targets = Mender(plan, fold(plan, events), FACTS, PROFILE).follow(eggs)
    assert len(targets) == 1 and FACTS.ingredients[targets[0].ingredient].group == "milk"
    milk = plan.lines[targets[0].line].grams
    assert (targets[0].grams < milk) == (factor > 1)
    state = fold(plan, [*events, event("retargeted", targets=[targets[0].model_dump()])])
    after, before = (analyse(x, FACTS, PROFILE, {}) for x in (will_be(plan, state, FACTS.ingredients), plan))
    assert after.water.spread_cm == pytest.approx(before.water.spread_cm, abs=0.1)
    assert Mender(plan, fold(plan, [event("poured", line=0, slot=0, grams=200)]), FACTS, PROFILE).follow(0) == ()


def test_none_left_is_solved_around_what_is_in_the_bowl():
    plan = PLANS["ridge"]
    yogurt = next(k for k, x in enumerate(plan.lines) if x.ingredient == "yogurt")
    events = [
        event("poured", line=0, slot=0, grams=160),
        event("poured", line=1, slot=0, grams=70),
        event("poured", line=yogurt, slot=0, grams=40, done=False),
    ]
    offers = Mender(plan, fold(plan, events), FACTS, PROFILE).none_left(yogurt)
    assert offers[-1].key == "without" and any(o.key == "instead" for o in offers)
    for offer in offers:
        state, after = taken(plan, [*events, event("none_left", line=yogurt)], offer)
        assert state.lines[yogurt].poured == 40 and state.lines[0].poured == 160
        assert all(x.target >= x.poured - 1e-6 for x in state.lines)
        assert after.water.spread_cm == pytest.approx(analyse(plan, FACTS, PROFILE, {}).water.spread_cm, abs=0.5), offer.title


def test_none_left_never_brings_in_what_the_guests_cannot_have():
    vegan = Batter(
        lines=read_lines("200 g flour\n10 g baking powder\n3 g salt\n20 g sugar\n300 g oat drink\n30 g rapeseed oil", FACTS, PROFILE)
    )
    offers = Mender(vegan, fold(vegan, []), FACTS, PROFILE, ("dairy_free",)).none_left(4)
    new = [t.ingredient for o in offers if o.key == "instead" for t in o.targets if t.line >= len(vegan.lines)]
    assert new and all("milk" not in FACTS.ingredients[i].allergens for i in new)


def test_a_line_that_is_not_there_is_refused():
    with pytest.raises(IndexError):
        Mender(PLANS["plain"], fold(PLANS["plain"], []), FACTS, PROFILE).over(99)
