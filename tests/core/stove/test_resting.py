"""The rest, the morning counted back, and how long things keep: by worked figures, on the careful side."""

import math
import re

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.lift import latest_minute, left_after
from mutabilis.core.batter.batter import Batter
from mutabilis.core.batter.bowl import drinking_minutes, fill, pace_at, scalded
from mutabilis.core.food.coefficients import per_gram
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.process import process
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.fold import fold
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.keeping import keeping
from mutabilis.core.stove.ready import count_back, preparations
from mutabilis.core.stove.resting import DRUNK, lift_left, past_window, window
from mutabilis.data import load_facts

from .making import batch, event

FACTS = load_facts()
CAKES = "200 g plain flour\n300 g whole milk\n2 eggs\n35 g butter\n9 g baking powder\n3 g salt"


def batter(text=CAKES, **more):
    return Batter(lines=read_lines(text, FACTS, Profile()), **more)


@pytest.mark.parametrize(("celsius", "pace"), [(21, 1.0), (31, 2.0), (11, 0.5), (4, 2**-1.7)])
def test_everything_goes_twice_as_fast_ten_degrees_warmer(celsius, pace):
    assert pace_at(celsius) == pytest.approx(pace)


def test_a_blender_is_ten_minutes_in_a_bowl():
    assert drinking_minutes(20, 1.0, False) == 20 and drinking_minutes(20, 1.0, True) == 30 and drinking_minutes(20, 0.5, True) == 20


def test_scalding_counts_the_water_that_boils_and_no_fat():
    def share(text):
        return scalded(read_lines(text, FACTS, Profile()), FACTS)

    assert share("200 g cornmeal\n300 ml boiling water") == pytest.approx(1.0, abs=0.02)
    assert share("200 g cornmeal\n150 ml boiling water") == pytest.approx(0.5, abs=0.02)
    assert share("200 g cornmeal\n300 ml water") == share("300 ml boiling water") == 0


def test_the_window_begins_when_nine_tenths_are_drunk():
    bowl = fill(batter(), FACTS)
    w = window(bowl, False, FACTS.stove.time)
    drinkers = [
        (p.grams * p.ingredient.absorption_g_per_g, p.ingredient.absorption_minutes) for p in bowl.portions if p.ingredient.is_drinker
    ]
    held = sum(g * (1 - math.exp(-2.303 * w.earliest_min / t)) for g, t in drinkers)
    assert held / sum(g for g, _ in drinkers) == pytest.approx(DRUNK, abs=1e-6)
    assert w.earliest_min <= w.best_min <= w.latest_min or w.tight
    cold = window(fill(batter(rest_c=4.0, rest_min=600), FACTS), False, FACTS.stove.time)
    assert cold.earliest_min == pytest.approx(w.earliest_min * 2**1.7, rel=1e-3)
    blended = window(fill(batter(blender=True), FACTS), True, FACTS.stove.time)
    assert blended.earliest_min == pytest.approx(max(0.0, w.earliest_min - 10.0), abs=0.5)


def test_the_lift_goes_by_its_half_life_and_is_told_where_it_goes_too_soon():
    bowl = fill(batter(), FACTS)
    latest = latest_minute(bowl)
    if latest is not None:
        assert left_after(bowl, latest) == pytest.approx(0.85, abs=1e-3) and lift_left(bowl, -5) == 1.0
    powder = next(p for p in bowl.portions if p.per.soda > 0).ingredient
    half = left_after(bowl, powder.half_life_min)
    assert half == pytest.approx(1 - powder.early_fraction / 2)
    sour = fill(batter("200 g coconut flour\n600 g buttermilk\n6 g baking soda\n4 eggs"), FACTS)
    w = window(sour, False, FACTS.stove.time)
    assert w.tight == (w.lift_min is not None and w.lift_min < w.earliest_min) and w.words


def test_the_morning_is_counted_back_step_by_step():
    a = analyse(batter(), FACTS, Profile(), {})
    made, t = process(a, FACTS), FACTS.stove.time
    clock = count_back(made, 100_000.0, 0.0, rest_min=20.0, cook_s=150.0, lines=6, facts=t)
    assert clock.pour == 100_000 - 150 and clock.rest == clock.pour - 1200 and clock.mix == clock.rest - 60 * t.mix_min
    assert clock.weigh == clock.mix - 6 * t.weigh_s and clock.begin <= clock.weigh and clock.late_s == 0
    late = count_back(made, 100_000.0, clock.begin + 90.0, 20.0, 150.0, 6, t)
    assert late.late_s == pytest.approx(90.0)
    state = fold(batter(), [event("prep_started", key="warm_up", at=5.0)] if made.op("warm_up") else [])
    found = preparations(made, state, clock)
    assert [p.start_by for p in found] == sorted(p.start_by for p in found)
    assert all(p.start_by == (clock.pour if p.key == "heat" else clock.mix) - 60 * p.minutes for p in found)
    assert all(p.due == p.started + 60 * p.minutes for p in found if p.started is not None)
    plain = preparations(made, state, None)
    assert all(p.start_by is None for p in plain) and {p.key for p in plain} == {p.key for p in found}


@pytest.mark.parametrize(
    ("text", "perishable"),
    [(CAKES, True), ("200 g rice flour\n300 g water\n5 g salt", False), ("200 g plain flour\n300 g whole milk", True)],
)
def test_what_is_kept_has_its_hours_and_its_caution(text, perishable):
    a = analyse(batter(text), FACTS, Profile(), {})
    found = {k.key: k for k in keeping(a, False, 1000.0, FACTS.stove, FACTS.safety)}
    assert found["batter_cold"].until == 1000 + 3600 * FACTS.safety.keep.batter_cold_hours
    assert found["pieces_cold"].until == 1000 + 3600 * FACTS.safety.keep.pieces_cold_hours
    assert found["pieces_frozen"].until == 1000 + 3600 * FACTS.safety.keep.pieces_frozen_hours
    assert all("local code" in k.caution for k in found.values())
    lasting = a.lift.latest_min is None or a.lift.latest_min >= 120
    assert found["batter_cold"].advised is lasting
    if lasting:
        assert (FACTS.safety.words("perishable") in found["batter_cold"].caution) is perishable


def test_what_loses_its_texture_is_not_advised_into_the_freezer():
    rich = analyse(batter("100 g plain flour\n6 eggs\n100 g milk"), FACTS, Profile(), {})
    plain = analyse(batter(), FACTS, Profile(), {})
    assert rich.setting.egg_share > 0.5
    for a, thirsty, advised in ((rich, False, False), (plain, True, False), (plain, False, plain.setting.egg_share <= 0.5)):
        frozen = next(k for k in keeping(a, thirsty, 0.0, FACTS.stove, FACTS.safety) if k.key == "pieces_frozen")
        assert frozen.advised is advised and ("texture" in frozen.caution) is not advised


@pytest.mark.parametrize(
    ("minutes", "words"), [(5, ""), (45, "of the lift is left. Cook it now, in smaller pieces, or sift in"), (200, "it is thrown away")]
)
def test_a_batter_past_its_window_says_what_is_left_and_what_to_do(minutes, words):
    b = batter("200 g plain flour\n2 g baking soda\n2 g baking powder\n240 g buttermilk\n1 egg")
    bowl = fill(b, FACTS)
    left = lift_left(bowl, minutes)
    w, t, powder = window(bowl, False, FACTS.stove.time), FACTS.stove.time, FACTS.ingredients["baking_powder"]
    said = past_window(bowl, w, minutes, left, t.room_most_min, powder, FACTS.safety.words("hold"))
    assert (said == "") == (words == "") and words in said
    if minutes == 45:  # the powder brings what has gone: mmol of bicarbonate over mmol in a gram of it
        grams = float(re.search(r"sift in ([\d.]+) g", said)[1])
        assert grams == pytest.approx(bowl.total("soda") * (1 - left) / per_gram(powder, 0.0).soda, abs=0.06)


def test_foam_and_yeast_keep_by_rules_of_their_own():
    foam = keeping(
        analyse(batter("150 g flour\n3 eggs, separated\n200 g milk"), FACTS, Profile(), {}), False, 0.0, FACTS.stove, FACTS.safety
    )
    yeast = keeping(
        analyse(batter("150 g flour\n2 g dried yeast\n200 g water"), FACTS, Profile(), {}), False, 0.0, FACTS.stove, FACTS.safety
    )
    assert not foam[0].advised and "foam is half gone" in foam[0].caution
    assert yeast[0].advised and "room to rise" in yeast[0].caution


@pytest.mark.parametrize("form", ["griddle", "waffle", "crepe", "tray"])
def test_what_comes_back_comes_back_with_degrees_minutes_and_a_cover(form):
    a = analyse(batter().model_copy(update={"form": form}), FACTS, Profile(), {})
    for k in keeping(a, False, 0.0, FACTS.stove, FACTS.safety)[1:]:
        assert re.search(r"\d+ °C oven", k.back) and re.search(r"\d+ minutes", k.back) and "75 °C (167 °F)" in k.back, k
        assert re.search("uncovered" if form == "waffle" else "under foil|covered dish", k.back)


def test_dishes_beside_the_batter_are_timed_to_the_first_plate_and_kept_by_their_own_days():
    text = "200 g flour\n300 g milk\n2 eggs\n8 g baking powder\nBerry compote:\n200 g blueberries\n40 g sugar\n10 g chia seeds"
    g = Guide(batch(batter(text), first_at=20_000.0), 9000.0, FACTS, Profile())
    found = {p.key: p for p in g.preparations}
    made, gel = found["side_1"], found["side_1_stand"]
    assert gel.start_by + 60 * gel.minutes == 20_000 and made.start_by + 60 * made.minutes == pytest.approx(gel.start_by)
    assert made.side == "Berry compote" and g.clockwork.begin <= made.start_by
    kept = next(k for k in g.keeping if k.key == "side_1")
    assert kept.until == 9000 + 3 * 24 * 3600 and kept.label == "berry compote, covered, in the fridge"
    assert not any(x.part.startswith("weigh_side") for x in g.lines), "its lines are not weighed into the batter"
