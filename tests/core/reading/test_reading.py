"""Lines as cooks write them."""

import signal
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.measures.numbers import VULGAR, value
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines

ENDLESS = [
    " ",
    "for ",
    "for",
    "1 ",
    "½",
    "(",
    ")",
    ", ",
    ". ",
    "- ",
    "–",
    ": ",
    "1/2 ",
    "cup ",
    "of ",
    "or ",
    "and ",
    "eggs ",
    "not ",
    "gf ",
    "contains ",
    "serves ",
    "x ",
    "é",
    "“",
    "°",
]

# text, ingredient, grams; weights from the ingredient table, units from their definitions.
READ = [
    ("1 1/2 cups all-purpose flour", "all_purpose_flour", 187.5),
    ("1½ c. plain flour, sifted", "all_purpose_flour", 187.5),
    ("1-1/2 cups plain flour", "all_purpose_flour", 187.5),
    ("one and a half cups plain flour", "all_purpose_flour", 187.5),
    ("Flour 1 1⁄2 cups", "all_purpose_flour", 187.5),
    ("half a cup of caster sugar", "caster_sugar", 107.5),
    ("0,5 kg sugar", "sugar", 500),
    ("1,000 g milk", "whole_milk", 1000),
    ("flour: 200 g", "all_purpose_flour", 200),
    ("200g/7oz self-raising flour", "self_raising_flour_uk", 200),
    ("8 oz rye flour", "rye_flour_medium", 226.8),
    ("1 lb rye flour", "rye_flour_medium", 453.6),
    ("250 ml water", "water", 250.4),
    ("2 dl milk", "whole_milk", 206.3),
    ("8 fl oz soya milk", "soy_drink", 243),
    ("1 T sugar", "sugar", 12.5),
    ("1 t salt", "salt", 6),
    ("1 dsp sugar", "sugar", 8.3),
    ("1 level tsp. bicarb", "baking_soda", 4.6),
    ("1 rounded teaspoon bicarb", "baking_soda", 6.44),
    ("2 heaped tbsp cocoa", "cocoa_natural", 19.4),
    ("1 scant cup flour", "all_purpose_flour", 116.3),
    ("1 scoop whey protein", "whey_concentrate", 30),
    ("2 sticks butter", "butter", 226),
    ("1/2 cup (1 stick) butter", "butter", 113.5),
    ("knob of butter", "butter", 15),
    ("handful of blueberries", "blueberry", 30),
    ("a pinch of salt", "salt", 0.375),
    ("2 dashes cinnamon", "cinnamon", 0.65),
    ("1 dozen eggs", "egg", 600),
    ("2 medium eggs", "egg", 88),
    ("½ egg", "egg", 25),
    ("3 egg whites, whipped to stiff peaks", "egg_white", 99),
    ("1 large banana (about 120 g)", "banana", 120),
    ("2 bananas (about 240 g), mashed", "banana", 240),
    ("2 eggs (50 g each)", "egg", 100),
    ("1 x 400 g tin coconut milk", "coconut_milk", 400),
    ("1 (14 oz) can coconut milk", "coconut_milk", 396.9),
    ("1 cup (120 g) oat flour", "oat_flour", 120),
    ("1 cup plus 2 tbsp sugar", "sugar", 225),
    ("juice of 1 lemon", "lemon_juice", 45),
    ("zest of half an orange", "orange_zest", 4),
    ("one 15-ounce can pumpkin puree", "pumpkin_puree", 425.2),
    ("1 x 400ml tin coconut milk", "coconut_milk", 382.1),
    ("1/3 cup neutral oil, such as rapeseed", "vegetable_oil", 72.7),
    ("1 cup rolled oats, ground to flour", "oat_flour", 81),
    ("1 medium courgette, grated and squeezed", "courgette_squeezed", 118),
    ("100 g beaten egg, weighed", "egg", 100),
    ("1) 200 gr flour", "all_purpose_flour", 200),
    ("1/2 tsp baking powder*", "baking_powder", 2.3),
    ("3 tablespoons melted unsalted butter, plus more for the pan", "butter", 42.6),
]


@pytest.mark.parametrize(("text", "ingredient", "grams"), READ, ids=[r[0] for r in READ])
def test_a_line_is_read(text, ingredient, grams, facts, profile):
    (line,) = read_lines(text, facts, profile)
    assert (line.ingredient, line.problem) == (ingredient, "")
    assert line.grams == pytest.approx(grams, rel=0.006)
    assert line.low <= line.grams <= line.high


def test_ranges_stay_ranges(facts, profile):
    for text in ("2–3 eggs", "2 to 3 eggs", "2 or 3 eggs", "between 2 and 3 eggs", "eggs 2-3"):
        (line,) = read_lines(text, facts, profile)
        assert line.grams == pytest.approx(125), text
        assert line.low <= 100 and line.high >= 150, text


def test_as_much_as_another_line(facts, profile):
    lines = read_lines(
        "100 g flour\n50 g rye flour\nmilk, as much as the flour\ntwice as much sugar as butter\n40 g butter",
        facts,
        profile,
    )
    assert [round(x.grams) for x in lines] == [100, 50, 150, 80, 40]
    (alone,) = read_lines("milk, as much as the flour", facts, profile)
    assert alone.problem and alone.ingredient is None


def test_alternatives_options_and_the_plate(facts, profile):
    (bracketed,) = read_lines("1 cup almond milk (or cow milk)", facts, profile)
    assert (bracketed.alternative, bracketed.alternative_text) == ("whole_milk", "cow milk")
    a, b, c, d, e = read_lines(
        "1 cup milk or oat drink\n1 cup almond or oat milk\n1 tsp vanilla (optional)\nbutter for frying\nmaple syrup, to serve",
        facts,
        profile,
    )
    assert (a.ingredient, a.alternative) == ("whole_milk", "oat_drink")
    assert b.ingredient == "almond_drink"
    assert c.optional
    assert (d.where, e.where) == ("plate", "plate")


def test_comments_headings_and_bad_lines(facts, profile):
    lines = read_lines(
        "# a note\n\nDry:\n200 g flour # the good one\n50 g moon dust\n-5 g salt\nNaN g sugar\n1/0 cup milk\n",
        facts,
        profile,
    )
    assert [bool(x.problem) for x in lines] == [False, True, True, True, True]
    assert lines[0].text == "200 g flour"


def test_prepared_things_are_what_they_are_made_of(facts, profile):
    flax, water = read_lines("2 flax eggs", facts, profile)
    assert (flax.ingredient, flax.grams, water.ingredient, water.grams) == ("flax_meal", 14, "water", 90)
    drink, vinegar = read_lines("1 cup soured soy milk", facts, profile)
    assert drink.ingredient == "soy_drink" and vinegar.ingredient == "cider_vinegar"
    assert drink.grams + vinegar.grams == pytest.approx(243)


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("2 egg yolks + 3 egg whites", {"egg_yolk": 34, "egg_white": 99}),
        ("1 cup oat milk + 1 tsp vinegar", {"oat_drink": 240, "cider_vinegar": 5}),
        ("240 ml soya milk, soured with 1 tbsp vinegar", {"soy_drink": 246.5, "cider_vinegar": 14.9}),
        ("1 cup soya milk w/ 1 tbsp lemon juice", {"soy_drink": 243, "lemon_juice": 15}),
        ("1 tbsp ground flaxseed mixed with 3 tbsp water", {"flax_meal": 7, "water": 44.4}),
        ("1 cup plus 2 tbsp sugar", {"sugar": 225}),
    ],
)
def test_two_things_in_one_line_are_both_counted(text, parts, facts, profile):
    lines = read_lines(text, facts, profile)
    assert {x.ingredient: x.grams for x in lines} == pytest.approx(parts, rel=0.005)
    assert all(x.text == text for x in lines)


def test_the_kitchen_decides_cups_and_scoops(facts):
    metric = Profile(cup_ml=250, tbsp_ml=20, flour="scooped", eggs="eu")
    flour, sugar, egg = read_lines("1 cup flour\n1 tbsp sugar\n1 egg", facts, metric)
    assert flour.grams == pytest.approx(125 * 250 / 236.588 * 1.2, rel=1e-5)
    assert sugar.grams == pytest.approx(12.5 * 20 / 14.787, rel=1e-5)
    assert egg.grams == 58
    assert flour.high - flour.low == pytest.approx(0.2 * flour.grams, rel=1e-5)


# What a name resolves to; None must stay unresolved, for a guess could be falsely safe.
NAMES = {
    "plain flour": "all_purpose_flour",
    "wholemeal flour": "whole_wheat_flour",
    "cornflour": "corn_starch",
    "cornstarch": "corn_starch",
    "bicarb": "baking_soda",
    "yoghurt": "yogurt",
    "buckweat flower": "buckwheat_flour",
    "vanila": "vanilla_extract",
    "cinammon": "cinnamon",
    "butternut squash": "butternut_puree",
    "eggplant": "aubergine",
    "butter beans": "butter_beans",
    "cocoa butter": "cocoa_butter",
    "cream of tartar": "cream_of_tartar",
    "glutinous rice flour": "sweet_rice_flour",
    "gluten-free oats": "rolled_oats_gf",
    "goat's milk": "goat_milk",
    "peanut butter": "peanut_butter",
    "nutmeg": "nutmeg",
    "albumen": "egg_white_powder",
    "gelatine": "gelatin",
    "oats, ground to flour": "oat_flour",
    "grated zucchini, squeezed dry": "courgette_squeezed",
    "clarified butter": "ghee",
    "cricket flour": "insect_flour",
    "vegan eggs": None,
    "flour, cricket": "insect_flour",
    "gluten-free bread flour": None,
    "almond cheese": None,
    "moon dust": None,
    "coconut yogurt with milk": None,
    "flax egg and egg": None,
    "egg replacer with egg white": None,
    "half and half": "half_and_half",
    "butter, melted and cooled": "butter",
}


@pytest.mark.parametrize(("name", "ingredient"), NAMES.items())
def test_names(name, ingredient, facts):
    found = facts.names.resolve(name)
    assert (found.parts[0][0] if found.parts else None) == ingredient


def test_every_ingredient_answers_to_its_own_name(facts):
    lost = [i.id for i in facts.ingredients.values() if not facts.names.resolve(i.id.replace("_", " ")).parts]
    assert not lost


@given(st.integers(0, 99), st.sampled_from(sorted(VULGAR)), st.sampled_from(["", " ", "-"]))
def test_mixed_numbers(whole, part, gap):
    assert value(f"{whole}{gap}{part}") == pytest.approx(whole + VULGAR[part])


@given(st.text(max_size=200))
def test_no_text_breaks_the_reader(facts, profile, text):
    for line in read_lines(text, facts, profile):
        assert line.ingredient is None or 0 <= line.low <= line.high <= 100_000


@pytest.mark.parametrize(
    ("text", "ingredient", "grams", "foams"),
    [
        ("4 eggs, whites beaten stiff", "egg", 200, True), ("3 eggs (whites and yolks separated)", "egg", 150, True), ("2 egg whites, beaten to stiff peaks", "egg_white", 66, True),
        ("2 eggs (whites only)", "egg_white", 66, False), ("3 large eggs, only the yolks", "egg_yolk", 51, False), ("2 eggs, beaten", "egg", 100, False),
        ("500 g courgettes, grated and squeezed", "courgette_squeezed", 300, False), ("300 g squeezed courgette", "courgette_squeezed", 300, False),
    ],
)  # fmt: skip
def test_what_is_done_with_a_thing_does_not_change_what_it_is(text, ingredient, grams, foams, facts, profile):
    (line,) = read_lines(text, facts, profile)
    assert (line.ingredient, line.grams, line.foamed, line.text) == (ingredient, pytest.approx(grams), foams, text)


@pytest.mark.parametrize("again", ENDLESS)
def test_no_line_keeps_the_reading_for_itself(again, facts, profile):
    """What is said over and over to the longest that a line can be is read, or not, at once: no pattern tries every way to split it."""
    before = signal.signal(signal.SIGALRM, lambda *_: pytest.fail(f"still reading {again!r}"))
    signal.alarm(30)
    try:
        for begins, ends in product(("", "butter for ", "2 eggs, ", "100 g oats "), ("", "1é", "!", "_")):
            text = (begins + again * 2000)[:1950] + ends
            read_lines(text, facts, profile)
            facts.prose.tell(text)
    finally:
        signal.alarm(0)
        signal.signal(signal.SIGALRM, before)
