"""What was learned as it is read, bags that are new, and surfaces that are."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.food.learning import BagDoubt, Lesson, Normal, with_new_bags
from mutabilis.core.journal.learned import learned, seen
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.tables import StoveTables
from tests.conftest import RIDGE
from tests.core.stove.making import batch, event


def lesson(kind="absorption", subject="coconut_flour", before=(1.0, 0.1), after=(1.1, 0.06), **more):
    return Lesson(kind=kind, subject=subject, before_mean=before[0], before_sd=before[1], after_mean=after[0], after_sd=after[1], **more)


@given(st.floats(-2, 2), st.floats(0.05, 2), st.floats(-2, 2), st.floats(0.05, 2))
def test_what_a_batch_told_is_what_makes_the_one_belief_out_of_the_other(mean, sd, reading, doubt):
    after = Normal(mean=mean, sd=sd).told(reading, doubt)
    found = seen(lesson(before=(mean, sd), after=(after.mean, after.sd)))
    assert found.mean == pytest.approx(reading, abs=1e-4) and found.sd == pytest.approx(doubt, rel=1e-4)
    assert seen(lesson(before=(mean, sd), after=(mean, sd))) is None is seen(lesson(before=(mean, sd), after=(mean, 2 * sd)))


def test_a_belief_is_read_in_the_kitchens_units(facts):
    thirst = facts.ingredients["coconut_flour"].absorption_g_per_g
    rows = [
        lesson(), lesson(before=(1.1, 0.06), after=(1.12, 0.05), batch="b2"), lesson("pace", "griddle", (0.0, 0.25), (math.log(1.2), 0.1)),
        lesson("fill", "iron", (0.0, 0.1), (math.log(0.9), 0.05)), lesson("piece_offset", "piece_offset", (0.5, 0.4), (0.8, 0.2)),
    ]  # fmt: skip
    found = {x.kind: x for x in learned(rows, {}, {"griddle": "Griddle", "coconut_flour": "coconut flour"}, facts.ingredients)}
    flour = found["absorption"]
    assert flour.words == "How much 100 g of coconut flour drink" and len(flour.told) == 2 and flour.told[1].batch == "b2"
    assert (flour.first.value, flour.first.doubt) == (pytest.approx(100 * thirst), pytest.approx(20 * thirst))
    assert flour.now.value == pytest.approx(112 * thirst) and not flour.new_bag
    assert (
        found["pace"].now.value == pytest.approx(120)
        and found["pace"].now.doubt == pytest.approx(24)
        and "the griddle takes" in found["pace"].words
    )
    assert (
        found["fill"].now.value == pytest.approx(90) and found["piece_offset"].now.value == 0.8 and found["piece_offset"].now.doubt == 0.4
    )


def test_a_new_bag_starts_from_what_is_known_and_is_less_sure(facts, batter):
    bag = BagDoubt(refined=0.05, thirsty=0.10, thirsty_from=1.5)
    known = {"coconut_flour": Normal(mean=1.2, sd=0.04), "wheat_flour": Normal(mean=1.0, sd=0.03), "sugar": Normal(mean=1.0, sd=0.01)}
    wheat = next(i for i, x in facts.ingredients.items() if x.is_flour and x.absorption_g_per_g < 1.0)
    known[wheat] = known.pop("wheat_flour")
    rows = [lesson(pack="Old, lot 1"), lesson(subject=wheat, pack="Mill, lot 1"), lesson(subject="sugar", pack="")]

    def now(**in_use):
        return with_new_bags(known, rows, in_use, facts.ingredients, bag)

    assert now(coconut_flour="old,  LOT 1", sugar="Sack 4") == known == now()  # the same bag, one without a name, and none in use
    new = now(**{"coconut_flour": "Old, lot 2", wheat: "Mill, lot 2"})
    assert new["coconut_flour"].mean == 1.2 and new["coconut_flour"].sd == pytest.approx(math.hypot(0.04, 0.12))
    assert new[wheat].sd == pytest.approx(math.hypot(0.03, 0.05)) and new["sugar"] == known["sugar"]
    told = learned([lesson(after=(1.2, 0.04))], {"absorption": new}, {}, facts.ingredients)
    assert told[0].new_bag and told[0].now.doubt > told[0].told[-1].then.doubt


def test_a_new_surface_starts_from_the_others_of_its_kind_as_doubtful_as_any(batter, facts, profile):
    one = facts.surfaces[0]
    other = one.model_copy(update={"id": "another"})
    house = facts.__class__(**{k: getattr(facts, k) for k in facts.__dataclass_fields__} | {"surfaces": (one, other)})
    g = Guide(batch(batter(RIDGE)), 2000.0, house, profile, learned={"pace": {one.id: Normal(mean=0.2, sd=0.05)}})
    assert g.pace_before(one) == Normal(mean=0.2, sd=facts.stove.time.pace_least_sd)  # never surer than from one morning to the next
    assert g.pace_before(other) == Normal(mean=0.2, sd=facts.stove.time.pace_sd)
    fresh = Guide(batch(batter(RIDGE)), 2000.0, house, profile)
    assert fresh.pace_before(one) == Normal(mean=0.0, sd=facts.stove.time.pace_sd)
    iron = next(s for s in facts.surfaces if s.kind == "iron")
    assert fresh.fill_before(iron) == Normal(mean=0.0, sd=facts.stove.fill.prior_sd)


def test_a_lesson_names_the_bag_that_it_was_learned_from(batter, facts, profile):
    plan = batter("60 g coconut flour\n5 eggs\n200 g coconut drink\n40 g butter\n4 g baking powder")
    pours = [event("poured", line=n, slot=0, grams=x.grams, pack="Old, lot 1" if n == 0 else None) for n, x in enumerate(plan.lines)]
    wet = event("step_done", key="mix", wets=True)
    looked = event("judged", at=wet.at + 600, way="spread", value=8.0)
    found = Guide(batch(plan, *pours, wet, looked), wet.at + 700, facts, profile).lessons
    assert [x.pack for x in found if x.subject == "coconut_flour"] == ["Old, lot 1"] and isinstance(facts.stove, StoveTables)
