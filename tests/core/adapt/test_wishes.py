"""Wishes besides diets: each does what it says, and the balances still hold."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.rounding import to_kitchen
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.batter.bowl import fill
from mutabilis.core.diets.packs import PackReading, standing
from mutabilis.core.diets.rules import check_rule, read_rule
from mutabilis.store.diet_files import with_rules
from tests.conftest import BUTTERMILK, COCONUT, CREPE, PLAIN, RIDGE, WAFFLE


@pytest.fixture
def solve(batter, facts, profile):
    def run(text, of="griddle", **wishes):
        return adapt(batter(text, of), Wishes(**wishes), facts, profile)

    return run


def grams(answer, facts):
    return {x.ingredient: x.grams for x in answer.analysis.batter.lines if x.where == "batter"}


def test_thinner_and_thicker(solve):
    same, thin, thick = (solve(PLAIN, diets=("vegan",), flow=f).answers[0].analysis.water.spread_cm for f in ("same", "thinner", "thicker"))
    assert thick < same - 0.4 and thin > same + 0.4


@pytest.mark.parametrize("centimetres", [9.0, 11.0, 13.0, 15.0])
def test_it_flows_as_far_as_was_wished(centimetres, solve):
    for diets in ((), ("vegan",), ("gluten_free",)):
        answer = solve(PLAIN, diets=diets, spread_cm=centimetres).answers[0]
        assert answer.analysis.water.spread_cm == pytest.approx(centimetres, abs=0.15), diets


def test_what_is_thinned_with_water_gets_no_more_drink(solve, facts):
    there = sum(x.grams for x in solve(PLAIN, diets=("vegetarian",)).base.batter.lines if x.ingredient == "whole_milk")
    plain, watered = (solve(PLAIN, spread_cm=14.0, thin_with=w).answers[0] for w in ("drink", "water"))
    now = grams(watered, facts)
    assert grams(plain, facts)["whole_milk"] > there >= now["whole_milk"] - 0.5 and now["water"] > 5 and "water" not in grams(plain, facts)
    assert watered.analysis.water.spread_cm == pytest.approx(14.0, abs=0.15)


@pytest.mark.parametrize(
    ("source", "text", "target"),
    [
        ("griddle", RIDGE, "waffle"),
        ("waffle", WAFFLE, "crepe"),
        ("crepe", CREPE, "griddle"),
        ("griddle", PLAIN, "tray"),
    ],
)
def test_another_form_has_its_own_targets(source, text, target, solve, facts):
    after = solve(text, source, form=target).answers[0].analysis
    form = facts.forms[target]
    assert after.batter.form == target
    assert form.spread_cm[0] <= after.water.spread_cm <= form.spread_cm[1]
    assert form.lift[0] <= after.lift.co2_ml_per_100g <= form.lift[1]
    assert after.setting.per_100g >= form.set_floor


def test_size_by_pieces(solve):
    for n in (3, 40):
        found = solve(PLAIN, diets=("dairy_free",), pieces=n)
        assert found.base.yields.pieces == pytest.approx(n, rel=1e-6)
        assert found.answers[0].analysis.yields.pieces == pytest.approx(n, rel=0.04)
    for form in ("crepe", "waffle"):  # other pieces come out of the same grams
        found = solve(PLAIN, diets=("vegan",), pieces=20, form=form)
        assert found.answers[0].analysis.yields.pieces == pytest.approx(20, rel=0.05)


def test_whole_eggs_and_separated_eggs(solve, facts):
    odd = PLAIN.replace("1 egg", "80 g egg")
    whole = grams(solve(odd, diets=("dairy_free",), eggs="whole").answers[0], facts)["egg"]
    assert whole == 100
    foam = solve(WAFFLE, "waffle", diets=("dairy_free",), eggs="separated")
    assert foam.answers[0].analysis.lift.air_ml > 0
    assert any("Whip" in t for t in foam.answers[0].technique)


def test_kitchen_steps_are_spoons_and_break_neither_flow_nor_lift(solve, facts, profile):
    for text, form, diets in (
        (PLAIN, "griddle", ("vegan",)),
        (BUTTERMILK, "griddle", ("vegan", "gluten_free")),
        (WAFFLE, "waffle", ("low_carb",)),
        (CREPE, "crepe", ("gluten_free",)),
    ):
        found = solve(text, form, diets=diets, steps="kitchen")
        before, after = found.base, found.answers[0].analysis
        assert after.water.yield_stress_pa == pytest.approx(before.water.yield_stress_pa, rel=0.05)
        low, high = facts.forms[form].lift
        lift = after.lift.co2_ml_per_100g
        assert abs(lift - before.lift.co2_ml_per_100g) <= 0.12 * before.lift.co2_ml_per_100g + 1 or low <= lift <= high
        was = {x.ingredient: x.grams for x in before.batter.lines}
        for line in after.batter.lines:
            i = facts.ingredients[line.ingredient]
            if line.grams != was.get(line.ingredient) and i.group not in (
                "plant_milk",
                "milk",
                "cultured_dairy",
                "plant_cultured",
                "water_juice",
            ):
                assert line.grams == pytest.approx(to_kitchen(i, line.grams, profile), rel=1e-6), i.id


def test_caps_floors_and_cost(solve, facts):
    base = solve(PLAIN).base
    each = base.nutrition.sugars_g / base.servings
    less = solve(PLAIN, caps={"sugars_g": 0.6 * each}).answers[0].analysis
    assert less.nutrition.sugars_g / less.servings <= 0.6 * each
    more = solve(PLAIN, floors={"protein_g": 1.4 * base.nutrition.protein_g / base.servings}).answers[0].analysis
    assert more.nutrition.protein_g >= 1.4 * base.nutrition.protein_g * 0.999
    prices = dict.fromkeys(facts.ingredients, 2.0) | {"soy_drink": 30.0}
    cheap = solve(PLAIN, diets=("dairy_free",), prices=prices, max_cost=0.4).answers[0]
    assert sum(prices[k] * g / 1000 for k, g in grams(cheap, facts).items()) / cheap.analysis.servings <= 0.41
    assert grams(cheap, facts).get("soy_drink", 0) < 40


def test_time_at_hand_keeps_slow_drinkers_out(solve, facts):
    quick = solve(PLAIN, diets=("gluten_free",), minutes=4).answers[0]
    new = set(grams(quick, facts)) - {x.ingredient for x in quick.analysis.batter.lines if x.ingredient in ("egg", "butter")}
    assert all(facts.ingredients[i].absorption_minutes <= 13 for i in new if facts.ingredients[i].is_drinker)
    assert quick.analysis.batter.rest_min == 4


def test_what_is_poured_stays_in_the_bowl(solve, facts):
    found = solve(PLAIN, diets=("egg_free",), poured={"whole_milk": 330.0, "all_purpose_flour": 187.5})
    now = grams(found.answers[0], facts)
    assert now["whole_milk"] >= 330 and now["all_purpose_flour"] >= 187.4
    clash = solve(PLAIN, diets=("vegan",), poured={"whole_milk": 100.0})
    assert "already in the bowl" in clash.infeasible.reasons[0]


def test_only_what_is_in_the_larder(solve, facts):
    larder = (
        "all_purpose_flour",
        "baking_powder",
        "salt",
        "sugar",
        "oat_drink_gf",
        "aquafaba",
        "sunflower_oil",
        "water",
    )
    found = solve(PLAIN, diets=("vegan",), larder=larder)
    assert set(grams(found.answers[0], facts)) <= set(larder)


def test_which_wishes_clash_is_named(solve):
    found = solve(WAFFLE, "waffle", diets=("low_carb",), caps={"fat_g": 2.0, "kcal": 60.0})
    words = " ".join(found.infeasible.reasons)
    assert "ceiling" in words and ("stand in each other's way" in words or "Without" in words or "More than one" in words)


def test_a_fault_of_the_base_is_named_and_not_handed_on(solve, facts):
    found = solve(PLAIN.replace("3 1/2 tsp", "10 tsp"), diets=("vegan",))
    assert any("too much leavening" in f for f in found.faults)
    assert found.answers[0].analysis.lift.verdict == "fits"
    dry = solve("200 g coconut flour\n2 eggs\n100 g milk\n5 g baking powder", diets=("nut_free", "low_carb"))
    assert any("more water" in f for f in dry.faults)


def test_every_answer_says_how_to_make_it_and_how_sure_it_is(solve):
    answer = solve(RIDGE, diets=("vegan", "gluten_free")).answers[0]
    assert answer.confidence in ("high", "medium", "low")
    assert any("whisk it smooth" in t for t in answer.technique) and answer.worse


def test_eighty_lines_and_a_single_one(solve, facts):
    many = "\n".join(f"{5 + n} g {i.name.split(' (')[0]}" for n, i in enumerate(facts.ingredients.values()) if n < 80)
    for text in (many, "100 g flour", "0.01 g flour", "100000 g flour\n90000 g milk"):
        found = solve(text, diets=("vegan", "gluten_free"))
        assert found.answers or found.infeasible.reasons


def test_coconut_without_eggs_names_the_flour(solve):
    assert "Change the flour" in " ".join(solve(COCONUT, diets=("vegan",)).infeasible.reasons)


# ---- rule files and readings


def test_rule_files_of_the_kitchen(tmp_path, facts, batter, profile):
    (tmp_path / "good.toml").write_text(
        'key = "retreat"\nlabel = "Retreat"\nallow = ["white_rice_flour", "water", "salt", "egg"]\n[[limits]]\nnutrient = "sodium_mg"\nmost = 200\n'
    )
    (tmp_path / "typo.toml").write_text('key = "typo"\nlabel = "Typo"\n\n[[deny]]\nreason = "nothing of milk"\nallergen = ["mlik"]\n')
    (tmp_path / "half.toml").write_text('key = "half"\nlabel = "Half"\n[[deny]]\nallergen = ["milk"]\n[[deny]]\ngroup = "sugar"\n')
    (tmp_path / "mine.toml").write_text('key = "vegan"\nlabel = "My vegan"\n')
    (tmp_path / "noise.toml").write_bytes(b"\xff\xfe\x00")
    mine = with_rules(facts, tmp_path)
    told = "\n".join(mine.faults)
    assert "typo.toml, line 6: no allergen “mlik”" in told
    assert "half.toml, line 4" in told or "half.toml, line 3" in told
    assert ("vegan: a shipped diet has this key" in told and "noise" in told) or "utf-8" in told
    assert mine.diets["vegan"] is facts.diets["vegan"] and "retreat" in mine.diets
    found = adapt(
        batter("150 g rice flour\n250 g milk\n2 eggs\n1 g salt", "crepe"),
        Wishes(diets=("retreat",), pins=()),
        mine,
        profile,
    )
    assert found.answers and {x.ingredient for x in found.answers[0].analysis.batter.lines} <= set(mine.diets["retreat"].allow)


@pytest.mark.parametrize("line", ['ingredient = ["flower"]', 'group = ["flours"]', 'animal = ["cow"]', "only = { moon = true }"])
def test_a_misspelt_rule_never_denies_nothing(line, facts):
    text = f'key = "mine"\nlabel = "Mine"\n[[deny]]\nreason = "because"\n{line}\n'
    with pytest.raises(ValueError, match="line 5"):
        check_rule(read_rule(text, "mine.toml"), text, "mine.toml", facts.ingredients)


def test_a_reading_lapses_with_a_new_pack():
    def read(pack, on):
        return PackReading(ingredient="margarine", pack=pack, by="Ilsabet", on=on)

    old, new = read("blue tub", "2026-01-02"), read("green tub", "2026-02-03")
    assert standing([new, old], {})["margarine"] is new
    assert standing([old, new], {"margarine": "blue tub"})["margarine"] is old
    assert standing([old, new], {"margarine": "red tub"}) == {}


def test_a_cleared_line_fits_and_says_who_looked(batter, facts, profile):
    b = batter(PLAIN.replace("3 tbsp butter", "40 g margarine"))
    read = {
        "margarine": PackReading(
            ingredient="margarine",
            pack="blue tub",
            by="Ilsabet",
            on="2026-01-02",
            vegan=True,
            certified_gluten_free=True,
        )
    }
    kept, gone = (adapt(b, Wishes(diets=("vegan",)), facts, profile, r).answers[0].analysis for r in (read, None))
    assert "margarine" in {x.ingredient for x in kept.batter.lines} and "margarine" not in {x.ingredient for x in gone.batter.lines}
    assert any("Ilsabet" in c.text for c in kept.diets["vegan"].cautions)
    assert fill(kept.batter, facts).batter_g > 0


ASKED = [("vegan",), ("gluten_free",), ("vegan", "gluten_free"), ("egg_free",), ("low_carb",)]


@pytest.mark.parametrize("diets", ASKED, ids="+".join)
def test_five_slots_each_with_its_fact_or_why_it_is_empty(diets, solve, facts):
    """Fixed slots; what each claims of its answer is so; no two answers are of one kind."""
    base = solve(PLAIN, diets=diets).base
    had = {line.ingredient for line in base.batter.lines}
    at_hand = (*had, "oat_drink", "rapeseed_oil", "buckwheat_flour_gf", "baking_powder_gf", "maple_syrup", "flax_meal")
    found = solve(PLAIN, diets=diets, alternatives=5, at_hand=at_hand)
    slots = {s.kind: s for s in found.slots}
    assert list(slots) == ["nearest", "larder", "least_to_buy", "most_protein", "simplest"]
    assert found.answers == tuple(s.answer for s in found.slots if s.answer)
    assert len({a.kind for a in found.answers}) == len(found.answers)
    nearest = slots["nearest"].answer
    for slot in found.slots:
        assert (slot.fact != "") == (slot.answer is not None) and (slot.empty != "") == (slot.answer is None)
        if slot.answer is not None:
            assert all(slot.answer.analysis.diets[d].verdict == "fits" for d in diets) and slot.answer.reasons[0]
    to_buy = {k: len(s.answer.kind - {*at_hand, "water"}) for k, s in slots.items() if s.answer}
    assert to_buy.get("larder", 0) == 0 and to_buy.get("least_to_buy", -1) < to_buy["nearest"]
    if slots["most_protein"].answer:
        assert slots["most_protein"].answer.analysis.nutrition.protein_g > 1.1 * nearest.analysis.nutrition.protein_g
    if slots["simplest"].answer:
        assert len(slots["simplest"].answer.kind) < len(nearest.kind)


def test_without_a_larder_the_slot_says_so(solve):
    slot = solve(PLAIN, diets=("vegan",), alternatives=2).slots[1]
    assert slot.kind == "larder" and slot.answer is None and "Larder" in slot.empty


CREPE = "250 g flour\n500 g soy drink\n40 g rapeseed oil\n1 tbsp starch egg replacer\n10 g sugar\n2 g salt"


@pytest.mark.parametrize(
    ("text", "form", "out", "into", "grams_"),
    [
        (CREPE, "crepe", "soy_drink", "oat_drink", 500),
        (CREPE, "crepe", "soy_drink", "coconut_milk", 300),
        (PLAIN, "griddle", "all_purpose_flour", "oat_flour", 250),
        (PLAIN, "griddle", "sugar", "maple_syrup", 60),
        (PLAIN, "griddle", "butter", "olive_oil", 80),
        (PLAIN, "griddle", "whole_milk", "water", 150),
    ],
)
def test_a_swap_by_hand_never_ends_in_nothing(text, form, out, into, grams_, solve):
    """What was set by hand stays to the gram, and the rest moves round it; or the nearest to that is shown, with what stands in the way."""
    found = solve(text, of=form, bans=(out,), locked={into: grams_})
    answer = found.answers[0] if found.answers else found.infeasible.nearest
    now = {line.ingredient: line.grams for line in answer.analysis.batter.lines}
    assert now[into] == grams_ and out not in now
    if found.answers:
        assert answer.analysis.water.spread_cm == pytest.approx(found.base.water.spread_cm, abs=0.35)


def test_oat_drink_for_soy_in_a_crepe_is_thinned_with_water(solve):
    found = solve(CREPE, of="crepe", diets=("vegan",), bans=("soy_drink",), locked={"oat_drink": 500})
    assert found.answers and "water" in found.answers[0].kind


@pytest.mark.parametrize("pieces", [6, 11, 17])
@pytest.mark.parametrize("diets", [("vegan",), ("gluten_free",), ("dairy_free",), ("nut_free",)], ids="+".join)
def test_as_many_pieces_as_were_wished_and_eggs_whole_or_beaten(diets, pieces, solve, facts):
    """None is short, none stands over; an egg that does not come out whole is beaten and weighed, and its line says so."""
    for text in (PLAIN, RIDGE, "2 ripe bananas\n2 eggs\n100 g oat flour\n1 tsp baking powder\n100 ml milk"):
        answer = solve(text, diets=diets, pieces=pieces).answers[0].analysis
        assert answer.yields.whole == pieces and answer.yields.last_share < 0.25
        for line in answer.batter.lines:
            if line.ingredient == "egg":
                whole = line.grams / facts.ingredients["egg"].unit_g
                assert abs(whole - round(whole)) < 0.01 or "beaten" in line.text
            assert f"{line.grams:g} g" in line.text  # what it says is what it weighs


def test_whole_things_stay_whole_and_keep_the_cooks_words(solve, facts):
    text = "200 g plain flour\n2 ripe bananas\n2 large eggs\n180 ml semi-skimmed milk\n2 tsp baking powder\n30 g butter"
    base = solve(text).base.batter
    answer = solve(text, diets=("dairy_free",)).answers[0].analysis.batter
    was, now = ({x.ingredient: x for x in b.lines} for b in (base, answer))
    assert now["banana"].grams == was["banana"].grams and now["egg"].grams == was["egg"].grams
    assert now["banana"].text == "2 ripe bananas"
    moved = now["all_purpose_flour"]
    assert moved.text == "200 g plain flour" or moved.text == f"{moved.grams:g} g plain flour"
    eggs = {x.ingredient: x for x in solve(text, caps={"carb_g": 25.0}).answers[0].analysis.batter.lines}["egg"]
    assert eggs.grams % facts.ingredients["egg"].unit_g == pytest.approx(0, abs=1e-6)


@pytest.mark.parametrize("diets", [("vegan",), ("egg_free",), ("low_carb",)], ids="+".join)
@pytest.mark.parametrize(
    "text, form",
    [
        ("200 g glutinous rice flour\n1 tsp baking powder\n180 ml milk\n1 egg\n30 g sugar\n30 g butter", "waffle"),
        ("40 g coconut flour\n60 g almond flour\n4 eggs\n60 ml milk\n40 g butter\n1 tsp baking powder", "waffle"),
        ("120 g fine cornmeal\n60 g buckwheat flour\n250 ml milk\n1 egg\n1 tsp baking powder", "griddle"),
    ],
    ids=["rice", "coconut", "maize"],
)
def test_what_has_no_gluten_gets_none_unless_it_is_asked_for(text, form, diets, solve, facts):
    """Nobody says of a recipe why it is without; whoever pins wheat wants it."""

    def gluten(found):
        answers = [*found.answers, *([found.infeasible.nearest] if found.infeasible and found.infeasible.nearest else [])]
        assert answers
        lines = {line.ingredient for a in answers for line in a.analysis.batter.lines if line.counts}
        return {i for i in lines if facts.ingredients[i].contains_gluten == "yes"}

    assert gluten(solve(text, form, diets=diets, alternatives=5)) == set()
    assert "all_purpose_flour" in gluten(solve(text, form, diets=("vegan",), pins=("all_purpose_flour",)))
