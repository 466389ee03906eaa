"""What a batch is summed up as, what it is compared by, and what changed between two: each by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.journal.compare import Pair, beside
from mutabilis.core.journal.entry import entry
from mutabilis.core.journal.predicted import Predicted, predicted
from mutabilis.core.journal.summary import Summary, summary
from mutabilis.core.journal.trends import EXPECTED, FOLLOWED, Stand, band, changes
from mutabilis.core.measures.profile import Profile

from .test_entry import FACTS, PLAN, WHOLE, batch, poured, whole

PROFILE = Profile()


def test_a_batch_is_summed_up_by_what_its_own_entry_says():
    made = whole({"kind": "rated", "stars": 4}, {"kind": "faults_seen", "faults": ["thick"]})
    found, e = summary(made, FACTS, PROFILE), entry(made, FACTS, PROFILE)
    rows = {r.key: r for r in e.rows}
    assert found.faults == ("thick",) and found.figures["stars"] == 4.0 and found.surface and found.flour == PLAN.lines[0].ingredient
    assert found.figures["heat"] == pytest.approx(rows["heat"].happened - rows["heat"].meant, abs=1e-3)
    assert found.figures["turned"] == pytest.approx(100 * rows["turned"].happened / rows["turned"].meant, abs=1e-3)
    assert set(found.figures) <= {k for k, _, _ in FOLLOWED} and "held_g" not in found.figures and "cost" not in found.figures
    nothing = summary(batch(), FACTS, PROFILE)
    assert (nothing.figures, nothing.faults, nothing.kept, nothing.packs, nothing.surface) == ({}, (), (), (), "")


@pytest.mark.parametrize("more, asked", [(-30.0, 0.0), (0.0, 0.0), (4.0, 4.0), (500.0, None)])
def test_what_was_held_back_and_what_a_piece_cost_follow_from_what_was_frozen(more, asked):
    made = whole()
    frozen = predicted(made, FACTS, PROFILE, "1", prices={x.ingredient: 3.0 for x in PLAN.lines})
    liquid = next(n for n, x in enumerate(PLAN.lines) if x.ingredient == "whole_milk")
    rest = (dict(e) for e in WHOLE if not (e["kind"] == "poured" and e["line"] == liquid))
    again = batch(poured(liquid, frozen.pour_g + more), *rest)
    found = summary(again, FACTS, PROFILE, frozen).figures
    wanted = frozen.hold_g if asked is None else asked
    assert found["asked_g"] == pytest.approx(wanted, abs=1e-3) and found["held"] == pytest.approx(100 * wanted / frozen.hold_g, abs=0.01)
    pieces = entry(again, FACTS, PROFILE, frozen).made
    assert found["cost"] == pytest.approx(frozen.cost / pieces, abs=1e-3) and pieces > 0
    assert "cost" not in summary(again, FACTS, PROFILE, frozen.model_copy(update={"cost": None})).figures


def test_a_summary_outlives_the_program_that_wrote_it():
    kept = summary(whole(), FACTS, PROFILE)
    assert Summary.model_validate_json(kept.model_dump_json()) == kept
    assert Summary.model_validate({"faults": ["thick"], "a_field_of_tomorrow": 1}).faults == ("thick",)
    two = Summary.model_validate(
        {"packs": [{"ingredient": "egg", "pack": "lot 1"}, {"ingredient": "egg"}, {"ingredient": "egg", "pack": "lot 2"}]}
    )
    assert two.pack_of("egg") == "lot 2" and two.pack_of("milk") == ""


def test_what_was_reckoned_stands_beside_what_was_found_in_every_batch():
    one, other = entry(whole(), FACTS, PROFILE), entry(batch(), FACTS, PROFILE)
    rows = {r.name: r for r in beside([one, other, one])}
    heat = next(r for r in one.rows if r.key == "heat")
    assert rows["Heat at the pour"].values == (
        Pair(reckoned=heat.meant, found=heat.happened),
        None,
        Pair(reckoned=heat.meant, found=heat.happened),
    )
    assert rows["Heat at the pour"].unit == "°C" and not any(
        name in rows for name in ("whole milk", "sugar")
    )  # lines are among what differs
    assert beside([]) == () == beside([other, other])


STANDS = st.builds(
    Stand, version=st.integers(1, 3), surface=st.sampled_from(["", "Griddle", "Pan"]),
    packs=st.dictionaries(st.sampled_from(["flour", "egg"]), st.sampled_from(["", "lot 1", "lot 2"])),
)  # fmt: skip


@given(STANDS, STANDS)
def test_a_change_is_what_was_written_down_of_both_and_differs(before, now):
    found = changes(before, now)
    assert changes(now, now) == () and len(found) == len(set(found))
    assert (f"version {now.version}" in found) == (before.version != now.version)
    assert any(x.startswith("on ") for x in found) == (bool(before.surface and now.surface) and before.surface != now.surface)
    told = {name for name in ("flour", "egg") if any(x.startswith(f"new {name}: ") for x in found)}
    assert told == {n for n in now.packs if before.packs.get(n) and now.packs[n] and before.packs[n] != now.packs[n]}


def test_a_band_is_what_was_frozen_of_a_spread_and_else_what_a_cook_would_not_notice():
    def frozen(low, at, high):
        return Predicted(program="1", spread_low_cm=low, spread_cm=at, spread_high_cm=high)

    assert band("spread", [frozen(9.0, 10.0, 12.0), frozen(8.0, 11.0, 12.0), Predicted(program="1")]) == (-2.0, 1.5)
    assert (
        band("spread", [Predicted(program="1")]) == (-0.5, 0.5)
        and band("turned", []) == (85.0, 115.0)
        and band("liquid", []) == (98.0, 102.0)
    )
    assert (
        band("pieces", []) == pytest.approx((90.0, 110.0))
        and band("cost", []) is None is band("held", [])
        and set(EXPECTED) <= {k for k, _, _ in FOLLOWED}
    )
