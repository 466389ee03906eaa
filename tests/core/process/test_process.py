"""The plan of making: its six properties over every demo batter, adaptations of them, and every way; then its rules, one by one."""

import math
from itertools import product
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.balances.holdback import hold_back
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.parts import SKILL_OF, STIRS, Kind, Skill, Ways
from mutabilis.core.process.process import latest_starts, process, rise_minutes
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts
from mutabilis.demo import demo_batters
from tests.conftest import BUTTERMILK, COCONUT, CREPE, PLAIN, RIDGE, WAFFLE

WAYS = [
    Ways(order=o, leavening=m, whites=w)
    for o, m, w in product(("two_bowls", "one_bowl", "blender"), (None, "dry", "hot", "last"), ("soft", "stiff"))
]
SEPARATED = """150 g flour
30 g sugar
4 g salt
2 g baking soda
3 eggs, separated
240 g buttermilk
40 g butter, melted
80 g blueberries
maple syrup to serve
butter for the pan"""
BUSY = """160 g buckwheat flour
40 g rolled oats, ground
14 g ground flaxseed
250 g soy drink
10 g cider vinegar
3 g baking soda
4 g baking powder
100 g banana, mashed
150 g grated courgette
30 g coconut oil
60 g raspberries"""
YEASTED = "250 g flour\n3 g dried yeast\n400 g milk\n2 eggs\n80 g butter\n20 g pearl sugar, to serve"
SCALDED = "150 g cornmeal\n300 g boiling water\n2 eggs\n8 g baking powder\n4 g salt"
TEXTS = [
    (RIDGE, "griddle"), (PLAIN, "griddle"), (COCONUT, "griddle"), (WAFFLE, "waffle"), (CREPE, "crepe"), (BUTTERMILK, "tray"), (SEPARATED, "griddle"),
    (BUSY, "griddle"), (BUSY, "tray"), (YEASTED, "waffle"), (SCALDED, "griddle"), ("100 g flour", "griddle"), ("3 eggs", "crepe"), ("200 g milk\n3 egg whites, whipped", "waffle"),
]  # fmt: skip


def checked(a, p, facts):
    """The properties that hold for every plan."""
    lines = {at: line for at, line in enumerate(a.batter.lines) if line.known and line.grams > 0}
    summed = dict.fromkeys(lines, 0.0)
    place = {o.id: n for n, o in enumerate(p.operations)}
    assert len(place) == len(p.operations), "ids stand once"
    for o in p.operations:
        assert all(place[x] < place[o.id] for x in (*o.after, *o.takes)), f"{o.id} waits for something that comes after it"
        assert o.vessel in {v.id for v in p.vessels} and o.minutes >= 0 and not o.text[:1].islower() and "nothing" not in o.text, o
        for x in o.portions:
            assert x.grams > 0 and math.isclose(x.share, x.grams / lines[x.line].grams)
            summed[x.line] += x.grams
    # 1. every line appears, in portions that add up; leavening once
    for at, line in lines.items():
        assert math.isclose(summed[at], line.grams, rel_tol=1e-9), line.text
    for at, line in lines.items():
        if facts.ingredients[line.ingredient].group == "leavener" and line.where == "batter":
            assert sum(x.line == at for o in p.operations for x in o.portions) == 1
    # 2. whipped whites are alone until they are whipped; what is laid on never enters the bowl; prepared things are taken
    by_vessel = {}
    for o in p.operations:
        by_vessel.setdefault(o.vessel, []).append(o)
    for o in by_vessel.get("whites_bowl", ()):
        assert all(x.ingredient in ("egg_white", "aquafaba") for x in o.portions)
    taken = [x for o in p.operations for x in o.takes]
    for o in p.operations:
        if o.portions and o.vessel not in ("surface", "plate"):
            assert o.id in taken or not any(
                x.vessel == o.vessel and place[x.id] > place[o.id] and x.kind != "weigh" for x in p.operations
            ), o.id
        for x in o.portions:
            late = facts.ingredients[x.ingredient].group == "mix_in" and lines[x.line].where == "batter"
            assert not late or o.vessel == "dish"
    # 3. nothing stirs after a fold; the bowl is judged before it; no rest outlives a fast leavening, or follows a fold
    kinds = [o.kind for o in p.operations]
    judged = p.op("judge")
    if (fold := p.op("fold")) is not None:
        after = p.operations[place["fold"] + 1 :]
        assert not any(o.kind in STIRS or o.kind in ("rest", "judge") for o in after)
        assert judged is not None and place["judge"] < place["fold"] and "judge" in _before(p, "fold")
        assert set(fold.takes) == {"whip"}
    m = p.moments
    assert (m.leavening is not None) == any(
        facts.ingredients[line.ingredient].group == "leavener" for line in lines.values() if line.where == "batter"
    )
    if m.leavening is not None and m.leavening.at == "dry" and m.leavening.lasts_min is not None:
        assert p.rest_min <= m.leavening.lasts_min
    if m.leavening is not None and m.leavening.at != "dry":
        assert "rest" not in place or place["leaven"] > place["rest"]
    # 4. one figure each
    held = hold_back(a.bowl, "scale")
    if m.held_back is not None:
        assert m.held_back.grams == held.hold_g and f"{held.hold_g:.0f} g" in p.op("weigh_held").text
        assert sum(x.grams for x in p.op("weigh_held").portions) == pytest.approx(held.hold_g)
    if m.judged.by_plate and judged is not None:
        assert f"{m.judged.now_cm:.1f} cm" in judged.text and m.judged.aim_cm == a.water.spread_cm
    # 5. steps speak only of what is there
    said = " ".join(f"{o.title} {o.text} {o.why} {' '.join(o.cautions)}".lower() for o in p.operations)
    for line in lines.values():
        said = said.replace(facts.ingredients[line.ingredient].short.lower(), "…")
    groups = {facts.ingredients[line.ingredient].group for line in lines.values() if line.where == "batter"}
    words = [(" egg", "egg"), ("yolk", "egg"), ("leavening", "leavener"), ("powder must", "leavener"), ("fruit", "fruit_puree")]
    for word, group in words:
        assert group in groups or word not in said, word
    gluten = any(facts.ingredients[line.ingredient].gluten_strength > 0 for line in lines.values())
    assert gluten or "gluten" not in said
    assert "melt" not in said or any(
        facts.ingredients[line.ingredient].group == "fat_solid" or line.ingredient == "coconut_oil" for line in lines.values()
    )
    # 6. the longest chain, and the latest starts that follow from it
    late = latest_starts(p, 1000.0)
    assert min(late.values(), default=1000.0) == pytest.approx(1000.0 - p.critical_path_min)
    for o in p.operations:
        assert all(late[x] + p.op(x).minutes <= late[o.id] + 1e-9 for x in o.after)
    assert kinds.count("pour") == 1


def _before(p, id_):
    found, todo = set(), [id_]
    while todo:
        for x in p.op(todo.pop()).after:
            if x not in found:
                found.add(x)
                todo.append(x)
    return found


def of(text, form="griddle", ways=None, facts=None, **more):
    facts = facts or load_facts()
    batter = Batter(lines=read_lines(text, facts, Profile()), form=form, **more)
    a = analyse(batter, facts, Profile(), {})
    return a, process(a, facts, ways)


@pytest.mark.parametrize(("text", "form"), TEXTS)
def test_every_way_of_a_batter_keeps_the_properties(text, form, facts):
    for rest in (None, 0, 60):
        batter = Batter(lines=read_lines(text, facts, Profile()), form=form, rest_min=rest)
        a = analyse(batter, facts, Profile(), {})
        for ways in WAYS:
            checked(a, process(a, facts, ways), facts)


@pytest.mark.parametrize("diet", ["vegan", "gluten_free", "low_carb"])
def test_so_do_the_adaptations_of_the_demo_batters(diet, facts, profile):
    for _, version in demo_batters(facts):
        for answer in adapt(version.batter, Wishes(diets=(diet,)), facts, profile).answers:
            for ways in WAYS[::5]:
                checked(answer.analysis, process(answer.analysis, facts, ways), facts)


INGREDIENTS = [
    "all_purpose_flour", "rice_flour", "oat_flour", "coconut_flour", "sugar", "honey", "salt", "baking_powder", "baking_soda", "egg", "egg_white", "flax_meal", "chia_seeds",
    "psyllium_husk", "whole_milk", "soy_drink", "buttermilk", "water", "cider_vinegar", "lemon_juice", "butter", "coconut_oil", "vegetable_oil", "banana", "courgette_grated", "blueberry",
    "dried_yeast", "aquafaba", "maple_syrup",
]  # fmt: skip


@given(
    lines=st.lists(
        st.tuples(
            st.sampled_from(INGREDIENTS), st.floats(0.1, 500), st.sampled_from(["batter", "batter", "batter", "plate"]),
            st.sampled_from([(), ("whipped",), ("mashed",), ("separated",), ("boiling",), ("melted",)]),
        ), max_size=12,
    ),
    form=st.sampled_from(["griddle", "waffle", "crepe", "tray"]), ways=st.sampled_from(WAYS), rest=st.sampled_from([None, 0.0, 12.0, 600.0]),
)  # fmt: skip
def test_any_batter_at_all_has_a_plan_that_keeps_them(lines, form, ways, rest):
    facts = load_facts()
    made = tuple(BatterLine(text=i, ingredient=i, grams=g, low=g, high=g, where=w, states=s) for i, g, w, s in lines)
    a = analyse(Batter(lines=made, form=form, rest_min=rest), facts, Profile(), {})
    checked(a, process(a, facts, ways), facts)


def test_every_kind_of_operation_is_somebodys_skill():
    """A service plans hands by what they may do: no operation may be nobody's."""
    assert set(SKILL_OF) == set(get_args(Kind)) and set(SKILL_OF.values()) == set(get_args(Skill))
    _, p = of("200 g flour\n250 g milk\n2 eggs\n8 g baking powder")
    assert {o.kind: o.skill for o in p.operations}["pour"] == "pour" and all(o.skill for o in p.operations)


# ---- its rules, one by one


def test_soda_that_a_rest_would_spend_goes_in_last_and_from_its_own_cup():
    _, p = of("200 g flour\n3 g baking soda\n240 g buttermilk\n1 egg", rest_min=20)
    assert p.moments.leavening.at == "hot" and p.moments.leavening.vessel == "small_cup"
    ids = [o.id for o in p.operations]
    assert ids.index("rest") < ids.index("leaven") < ids.index("pour") and ids.index("judge") < ids.index("leaven")
    assert p.op("leaven").takes == ("weigh_leavening",) and "baking soda" in p.op("leaven").text


def test_a_cook_who_wets_it_early_gets_a_shorter_rest():
    a, p = of("200 g flour\n3 g baking soda\n240 g buttermilk\n1 egg", ways=Ways(leavening="dry"), rest_min=20)
    assert p.rest_min == int(a.lift.latest_min) < 20 and p.op("leaven") is None and "cut short" in p.moments.leavening.why


def test_eggs_are_separated_by_what_a_white_weighs_and_sugar_goes_to_them_only_for_soft_peaks():
    _, p = of("150 g flour\n40 g sugar\n3 eggs, separated\n200 g milk\n5 g baking powder")
    assert [(x.ingredient, x.grams) for x in p.op("weigh_whites").portions] == [("egg_white", pytest.approx(150 * 33 / 50))]
    yolks = [x for x in p.op("weigh_wet").portions if x.ingredient == "egg_yolk"]
    assert [x.grams for x in yolks] == [pytest.approx(150 * 17 / 50)]
    assert p.op("weigh_sugar").portions[0].grams == pytest.approx(0.35 * 99) and "soft" in p.op("whip").text
    _, stiff = of("150 g flour\n40 g sugar\n3 eggs, separated\n200 g milk\n5 g baking powder", ways=Ways(whites="stiff"))
    assert stiff.op("weigh_sugar") is None and "stiff" in stiff.op("whip").text and "all at once" in stiff.op("fold").text


def test_a_gel_is_weighed_where_it_is_soaked_and_goes_in_as_a_gel():
    _, p = of("200 g flour\n14 g ground flaxseed\n250 g soy drink\n5 g baking powder")
    assert [(x.ingredient, x.grams) for x in p.op("soak").portions] == [("flax_meal", 14), ("soy_drink", 56)]
    assert "soak" in p.op("wet").takes and "gel" in p.op("wet").text
    _, whizzed = of("200 g flour\n14 g ground flaxseed\n250 g soy drink\n5 g baking powder", ways=Ways(order="blender"))
    assert whizzed.op("soak") is None and any(x.ingredient == "flax_meal" for x in whizzed.op("weigh_dry").portions)


def test_milk_is_soured_in_the_jug_that_it_stays_in_all_but_what_is_held_back():
    _, p = of("200 g flour\n240 g soy drink\n10 g cider vinegar\n3 g baking soda\n20 g oil")
    sour = p.op("sour")
    assert sour.vessel == "jug" and sour.portions[0].grams == pytest.approx(240 - p.moments.held_back.grams)
    assert "sour" in p.op("wet").takes


def test_boiling_water_is_poured_over_the_meal_first():
    _, p = of(SCALDED)
    scald = p.op("scald")
    assert [x.ingredient for x in scald.portions] == ["cornmeal", "water"] and "scald" in p.op("dry").takes
    assert any("scalds" in c for c in scald.cautions)


@pytest.mark.parametrize(
    ("yeast", "celsius", "minutes"),
    [("2.5 g dried yeast", 24, 75), ("7.5 g fresh yeast", 24, 75), ("1.25 g dried yeast", 24, 150), ("2.5 g dried yeast", 34, 40)],
)
def test_yeast_wants_time_by_its_dose_and_warmth(yeast, celsius, minutes, facts):
    a, p = of(f"250 g flour\n{yeast}\n300 g milk", rest_c=celsius)
    assert rise_minutes(a, facts) == pytest.approx(minutes, abs=2.5)
    assert p.op("rest").title == "Rise" and p.op("rest").wait_min == rise_minutes(a, facts) and p.moments.leavening is None
    assert "35 to 38 °C" in p.op("proof").text and "weigh_leavening" not in {o.id for o in p.operations}


def test_sugar_is_closed_into_an_iron_and_icing_sugar_is_not():
    crust = of("200 g flour\n250 g milk\n2 eggs\n6 g baking powder\n30 g pearl sugar, to serve", "waffle")[1]
    dusted = of("200 g flour\n250 g milk\n2 eggs\n6 g baking powder\n30 g icing sugar, to serve", "waffle")[1]
    assert crust.op("crust").vessel == "surface" and crust.op("serve") is None
    assert dusted.op("crust") is None and "icing" in dusted.op("serve").text


@pytest.mark.parametrize(
    ("form", "kind", "before"),
    [("griddle", "lay", "turn"), ("waffle", "scatter", "close"), ("tray", "layer", "bake"), ("crepe", "scatter", "lift_off")],
)
def test_what_is_laid_on_later_waits_in_a_dish(form, kind, before):
    _, p = of("200 g flour\n300 g milk\n2 eggs\n80 g blueberries", form)
    late = p.op("late")
    assert late.kind == kind and late.takes == ("weigh_late",) and p.op("weigh_late").vessel == "dish"
    ids = [o.id for o in p.operations]
    assert ids.index("pour") < ids.index("late") < ids.index(before)


def test_a_flax_egg_brings_its_own_water_and_a_starter_is_weighed_as_one():
    _, p = of("1 flax egg\n100 g oat flour\n240 g oat drink\n6 g baking powder")
    assert [(x.ingredient, x.grams) for x in p.op("soak").portions] == [("flax_meal", 7), ("water", 45)] and "into 45 g of water." in p.op(
        "soak"
    ).text
    _, p = of("150 g sourdough starter\n100 g flour\n150 g milk\n1 egg")
    assert [(x.ingredient, x.grams) for x in p.op("starter").portions] == [("bread_flour", 75), ("water", 75)] and p.op(
        "starter"
    ).vessel == "jug"
    assert "150 g of the starter" in p.op("starter").text and all(x.ingredient != "bread_flour" for x in p.op("weigh_dry").portions)


def test_what_the_heat_model_does_not_cover_is_said_to_be_outside():
    puffed = of("100 g flour\n200 g milk\n3 eggs\n2 g salt", "tray")[1]
    assert "outside" in puffed.op("bake").why and "after about" not in puffed.op("lift_off").text and puffed.op("bake").wait_min == 20
    lidded = of("200 g flour\n250 g milk\n2 eggs\n8 g baking powder\nCover the pan and cook until set", "griddle")[1]
    open_ = of("200 g flour\n250 g milk\n2 eggs\n8 g baking powder\nCook until set", "griddle")[1]
    assert "Under a lid" in lidded.op("pour").text and "without a lid" in lidded.op("pour").why and "lid" not in open_.op("pour").text
