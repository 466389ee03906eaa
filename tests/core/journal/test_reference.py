"""What a batch is measured by, what of its correction goes into the next one, and what is followed over many."""

import pytest

from mutabilis.core.book.versions import Version
from mutabilis.core.diagnosis.corrections import Correction
from mutabilis.core.journal.compare import inputs_of
from mutabilis.core.journal.entry import entry
from mutabilis.core.journal.reference import corrected, reference_of
from mutabilis.core.journal.summary import packs_of
from mutabilis.core.journal.trends import FOLLOWED, drift, value_of, words_of
from mutabilis.core.measures.profile import Profile
from mutabilis.data import load_diagnosis

from .test_entry import FACTS, PLAN, batch, poured, whole

KNOWN = FACTS.ingredients


def version(number, id_, parent=None, batter=PLAN):
    return Version(
        id=id_, batter_id="2" * 16, name="Cakes", number=number, parent=parent, diets=(), note="", saved="2030-01-01", batter=batter
    )


FAMILY = (version(1, "a"), version(2, "1" * 16, "a"), version(3, "c", "1" * 16))


@pytest.mark.parametrize(
    ("good", "words", "proven"),
    [
        ({}, "version 1, which it came from", False), ({"a": 1}, "version 1, which it came from", False), ({"a": 2}, "version 1, which is proven", True), ({"a": 2, "c": 2}, "version 3, which is proven", True),
        ({"a": 5, "1" * 16: 2}, "version 2, which is proven", True),
    ],
)  # fmt: skip
def test_the_last_proven_version_is_the_measure_else_the_parent(good, words, proven):
    _, said, is_proven = reference_of(batch(), FAMILY, good)
    assert (said, is_proven) == (words, proven)


def test_a_first_version_is_measured_by_its_own_plan_and_a_reference_takes_the_batchs_rest():
    assert reference_of(batch(), (version(1, "1" * 16),), {}) == (PLAN, "its own plan", False)
    assert reference_of(batch(), (), {}) == (PLAN, "its own plan", False)
    other = PLAN.model_copy(update={"rest_min": 55.0, "form": "waffle"})
    found, _, _ = reference_of(batch(), (version(1, "a", batter=other), version(2, "1" * 16, "a")), {})
    assert (found.rest_min, found.form) == (PLAN.rest_min, PLAN.form)


def grams(batter):
    return {x.ingredient: x.grams for x in batter.lines}


def test_one_change_changes_one_thing():
    """180 g of milk were poured where 230 stood, flour and egg by a gram off: 50 g more is 230, and nothing else moves."""
    made = batch(poured(0, 201), poured(1, 180), poured(2, 99), poured(3, 10), poured(4, 25))
    fixed = Correction(change="liquid", ingredient="whole_milk", grams=55.0)
    assert grams(corrected(PLAN, made, fixed, KNOWN)) == grams(PLAN) | {"whole_milk": 235.0}
    words = Correction(change="heat", to=190.0)
    assert corrected(PLAN, made, words, KNOWN) == PLAN


def test_a_batch_of_twice_the_size_comes_back_to_the_versions_own():
    half = PLAN.model_copy(update={"lines": tuple(x.model_copy(update={"grams": x.grams / 2}) for x in PLAN.lines)})
    made = batch(poured(1, 200))
    assert grams(corrected(half, made, Correction(change="liquid", ingredient="whole_milk", grams=40.0), KNOWN))["whole_milk"] == 120.0


def test_what_was_not_there_gets_a_line_and_what_is_all_taken_out_stays_at_nought():
    fixed = Correction(change="leavening", ingredient="baking_powder", grams=-10.0, also={"baking_soda": 2.0, "oat_flour": -5.0})
    made = corrected(PLAN, batch(poured(3, 10)), fixed, KNOWN)
    assert grams(made)["baking_powder"] == 0.0 and grams(made)["baking_soda"] == 2.0 and "oat_flour" not in grams(made)
    assert made.lines[-1].text.startswith("2 g ")


def test_inputs_are_ratios_so_that_sizes_do_not_matter():
    found = inputs_of(whole(), KNOWN)
    assert found.liquid == pytest.approx(180 / 200) and found.heat == 164 and found.rest == pytest.approx(10.8, abs=0.2)
    assert found.grams["sugar"] == 12.5 and "whole_milk" not in found.grams and found.packs == {}
    named = inputs_of(batch(poured(0, 400, pack="lot 1"), poured(1, 360), poured(0, 1, pack="lot 2", slot=1)), KNOWN)
    assert named.liquid == pytest.approx(360 / 401) and named.packs[PLAN.lines[0].ingredient] == "lot 2"
    nothing = inputs_of(batch(), KNOWN)
    assert (nothing.liquid, nothing.rest, nothing.heat, nothing.grams) == (None, None, None, {})


def test_every_figure_that_is_followed_is_one_of_the_batchs_own():
    e = entry(whole({"kind": "rated", "stars": 3}), FACTS, Profile())
    values = {key: value_of(key, whole(), e, KNOWN) for key, _, _ in FOLLOWED}
    rows = {r.key: r for r in e.rows}
    assert values["liquid"] == pytest.approx(100 * 180 / 230) and values["stars"] == 3.0
    assert values["heat"] == pytest.approx(164 - rows["heat"].meant) and values["turned"] == pytest.approx(100 * 85 / rows["turned"].meant)
    bare = entry(batch(), FACTS, Profile())
    assert all(value_of(key, batch(), bare, KNOWN) is None for key, _, _ in FOLLOWED)


def test_a_drift_is_said_with_its_unit_and_only_where_it_is_one():
    falls = drift([10.0, 8.0, 6.0, 4.0, 2.0, 0.0, -2.0])
    assert (
        words_of(falls, 7, "°C") == "It drifts: 2.0 °C less with each batch."
        and words_of(falls, 7, "") == "It drifts: 2.0 stars less with each batch."
    )
    flat = drift([1.0, 2.0, 1.0])
    assert (
        words_of(flat, 3, "%") == "Too few batches to tell a drift."
        and words_of(drift([1.0, 2.0] * 4), 8, "%") == "No drift that is more than chance."
    )


def packs(*events):
    return [(p.ingredient, p.pack) for p in packs_of(batch(*events))]


def test_every_pack_that_went_in_is_remembered_also_where_two_did_or_none_was_named():
    added = {"kind": "retargeted", "targets": [{"line": len(PLAN.lines), "ingredient": "oat_flour", "grams": 9}]}
    assert packs(poured(2, 50, pack="lot 7"), poured(2, 50, slot=1), poured(1, 230), added, poured(len(PLAN.lines), 9, pack="lot o")) == [
        ("egg", "lot 7"), ("egg", ""), ("whole_milk", ""), ("oat_flour", "lot o"),
    ]  # fmt: skip
    assert packs(poured(2, -5), poured(40, 5)) == []  # taken out; and a line that is none


def test_what_came_of_a_correction_moves_a_kitchens_own_priors():
    tables = load_diagnosis()
    none, two = tables.priors([]), tables.priors([("water_low", 1.0), ("water_low", 0.5), ("heat_low", 0.0)])
    assert none["water_low"] == pytest.approx(0.07) and two["water_low"] == pytest.approx((20 * 0.07 + 1.5) / 23)
    assert two["heat_high"] < none["heat_high"] and max(tables.priors([("water_low", 1.0)] * 500).values()) <= 0.45
