"""From grams to the lines of a batter: the cook's words, the order, the plate, and what each line says it weighs."""

import pytest

from mutabilis.core.adapt.candidates import Candidate
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.adapt.writing import ORDER, WHOLE_EGG, Writer, amount_in_words, in_whole_grams
from mutabilis.core.batter.batter import Batter
from mutabilis.core.reading.reading import read_lines


@pytest.fixture(scope="module")
def write(facts, profile):
    """The lines of a base at other grams, for diets; and the writer."""

    def run(text, grams, diets=(), times=1.0, servings=4.0):
        base = Batter(lines=read_lines(text, facts, profile)).scaled(times)
        writer = Writer(base=base, rules=Wishes(diets=diets).rules(facts), facts=facts, profile=profile, readings={}, resized=times != 1.0)
        had = {x.ingredient: x.grams for x in base.lines}
        rounded = [
            (
                Candidate(
                    ingredient=facts.ingredients[k], base_g=had.get(k, 0.0), low=0, high=9e9, new=k not in had, role="x", cost=0, oddness=0
                ),
                g,
            )
            for k, g in grams.items()
        ]
        return {x.ingredient: x for x in writer.batter(rounded, "griddle", servings).lines}, writer

    return run


def test_a_line_that_stays_keeps_its_very_words(write):
    lines, _ = write("1 ½ cups plain flour, sifted\n2 large eggs", {"all_purpose_flour": 187.5, "egg": 100.0})
    assert lines["egg"].text == "2 large eggs"
    assert lines["all_purpose_flour"].text.startswith("1 ½ cups plain flour") or lines["all_purpose_flour"].text == "187.5 g plain flour"


def test_a_line_that_moves_keeps_its_name_its_states_and_what_it_leaves_open(write):
    lines, _ = write(
        "200 g plain flour\n50 g butter, melted and cooled\n20 g raisins, zorbled", {"all_purpose_flour": 188, "butter": 41, "raisin": 25}
    )
    assert lines["all_purpose_flour"].text == "188 g plain flour" and (lines["butter"].text, lines["butter"].states) == (
        "41 g butter",
        ("melted",),
    )
    assert lines["raisin"].unread == ("zorbled",)  # it moved, and is as open as it was


def test_what_is_new_has_the_tables_name_and_a_scales_doubt(write, facts):
    lines, _ = write("200 g flour", {"all_purpose_flour": 200, "soy_drink": 310, "salt": 2.4})
    assert lines["soy_drink"].text == f"310 g {facts.ingredients['soy_drink'].name}"
    assert (lines["soy_drink"].low, lines["soy_drink"].high) == pytest.approx((306.9, 313.1))
    assert (lines["salt"].low, lines["salt"].high) == pytest.approx((2.28, 2.52))


def test_flours_come_first_then_what_wets_binds_enriches_and_lifts(write, facts):
    grams = {
        "baking_powder": 9,
        "sugar": 20,
        "butter": 30,
        "egg": 50,
        "soy_drink": 300,
        "psyllium_husk": 3,
        "corn_starch": 40,
        "oat_flour": 160,
    }
    lines, _ = write("200 g flour", grams)
    assert list(lines) == ["oat_flour", "corn_starch", "psyllium_husk", "soy_drink", "egg", "butter", "sugar", "baking_powder"]
    groups = [next(n for n, some in enumerate(ORDER) if facts.ingredients[k].group in some) for k in lines]
    assert groups == sorted(groups)


def test_the_plate_is_changed_by_its_kind_each_stand_in_once(write):
    text = "200 g flour\n40 g walnuts, to serve\n30 g hazelnuts, to serve\n20 g pecans, to serve\n15 g butter for the pan"
    lines, writer = write(text, {"all_purpose_flour": 200}, diets=("vegan", "nut_free"))
    on_plate = {k: x.grams for k, x in lines.items() if x.where == "plate"}
    assert len([k for k in on_plate if "seeds" in k]) == 2 and "butter" not in on_plate  # two kinds of seed, and no third nut's worth
    swaps = {old.ingredient: new.ingredient if new else None for old, new in writer.plate_swaps}
    assert set(swaps) == {"walnut", "hazelnuts", "pecans", "butter"} and list(swaps.values()).count(None) == 1


def test_what_would_break_a_limit_is_left_off_the_plate_the_richest_first(write):
    text = "120 g almond flour\n3 eggs\n60 g maple syrup, to serve\n20 g strawberries, to serve"
    lines, writer = write(text, {"almond_flour": 120, "egg": 150}, diets=("low_carb",), servings=2.0)
    assert "maple_syrup" not in lines
    assert ("maple_syrup", None) in [(old.ingredient, new) for old, new in writer.plate_swaps]


def test_where_the_size_changed_every_line_says_what_it_weighs(write):
    text = "2 large eggs\n125 g plain flour\n10 g baking powder\n40 g butter, to serve"
    lines, _ = write(text, {"egg": 131.4, "all_purpose_flour": 164.25, "baking_powder": 13.14}, times=1.314)
    assert (lines["egg"].text, lines["egg"].grams) == ("131 g eggs, beaten, then weighed", 131)
    assert lines["all_purpose_flour"].text == "164 g plain flour" and lines["baking_powder"].text == "13.1 g baking powder"
    assert lines["butter"].grams == 53 and lines["butter"].text == "53 g butter"  # the plate too


@pytest.mark.parametrize(
    ("grams", "text"),
    [
        (100.0, "100 g eggs"),
        (100 + 49 * WHOLE_EGG, "100 g eggs"),  # near enough to two
        (100 - 49 * WHOLE_EGG, "100 g eggs"),
        (105.0, "105 g eggs, beaten, then weighed"),
        (33.2, "33 g eggs, beaten, then weighed"),
        (8.0, "8 g eggs, beaten, then weighed"),
    ],
)
def test_eggs_come_out_whole_or_are_beaten_and_weighed(grams, text, facts, profile):
    (line,) = read_lines("2 large eggs", facts, profile)
    scaled = Batter(lines=(line.model_copy(update={"grams": grams}),))
    (one,) = in_whole_grams(scaled, facts).lines
    assert one.text == text and f"{one.grams:g} g" in one.text
    assert read_lines(one.text, facts, profile)[0].grams == one.grams


def test_only_what_is_taken_whole_is_beaten(facts):
    i = facts.ingredients
    assert (
        amount_in_words(i["egg"], 75, "eggs") == "75 g eggs, beaten, then weighed"
        and amount_in_words(i["egg"], 100, "eggs") == "100 g eggs"
    )
    assert amount_in_words(i["banana"], 60, "banana") == "60 g banana" and amount_in_words(i["salt"], 2.5, "salt") == "2.5 g salt"


def test_a_choice_that_would_not_fit_is_made(write):
    """ "milk or oat drink" for a guest without dairy: the oat drink's line says oat drink alone."""
    lines, _ = write("200 g flour\n300 g oat drink or milk", {"all_purpose_flour": 200, "oat_drink": 300}, diets=("dairy_free",))
    assert lines["oat_drink"].maybe == () and "milk" not in lines["oat_drink"].text.replace("oat milk", "")
    kept, _ = write("200 g flour\n300 g oat drink or soy drink", {"all_purpose_flour": 200, "oat_drink": 300}, diets=("dairy_free",))
    assert kept["oat_drink"].maybe == ("soy_drink",)
