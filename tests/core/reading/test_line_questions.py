"""What a line leaves open is asked, answered by one touch, kept with the version, and remembered for one food alone."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.diets.verdicts import judge
from mutabilis.core.errors import CannotBe
from mutabilis.core.reading.line_questions import Told, answered, beside_of, questions_of
from mutabilis.core.reading.reading import read_lines


def asked(text, facts, profile):
    (line,) = read_lines(text, facts, profile)
    return line, {q.kind: q for q in questions_of(line, facts)}


def fits(line, diet, facts, profile):
    return judge((line,), facts.diets[diet], facts, profile).verdict == "fits"


def test_alternatives_stay_open_until_one_is_taken(facts, profile):
    line, ask = asked("100 g blueberries or chopped walnuts", facts, profile)
    assert not fits(line, "nut_free", facts, profile) and [c.key for c in ask["which"].choices] == ["blueberry", "walnut"]
    berries = answered(line, Told(kind="which", about="blueberry", choice="blueberry"), facts, profile)
    assert fits(berries, "nut_free", facts, profile) and not questions_of(berries, facts) and berries.grams == line.grams
    nuts = answered(line, Told(kind="which", about="blueberry", choice="walnut"), facts, profile)
    assert nuts.ingredient == "walnut" and not fits(nuts, "nut_free", facts, profile) and nuts.text == line.text


def test_things_alike_are_not_asked_apart(facts, profile):
    assert not asked("2 tbsp sugar or caster sugar", facts, profile)[1]


def test_a_wish_is_a_question_and_no_fact(facts, profile):
    line, ask = asked("200 g oats, gluten-free if needed", facts, profile)
    assert not fits(line, "gluten_free", facts, profile) and ask["wish"].pack == ""
    yes = answered(line, Told(kind="wish", about=ask["wish"].about, choice="yes"), facts, profile)
    assert yes.ingredient == "rolled_oats_gf" and fits(yes, "gluten_free", facts, profile)
    no = answered(line, Told(kind="wish", about=ask["wish"].about, choice="no"), facts, profile)
    assert no.ingredient == "rolled_oats" and not questions_of(no, facts)
    milk, ask = asked("240 ml milk, vegan works too", facts, profile)
    assert milk.ingredient == "whole_milk"
    for q in ask.values():
        told = Told(kind=q.kind, about=q.about, choice="yes")
        assert not fits(answered(milk, told, facts, profile), "vegan", facts, profile) or q.kind == "wish"


def test_an_unknown_word_is_how_it_is_prepared_or_a_food(facts, profile):
    line, ask = asked("200 g potatoes, zorbled", facts, profile)
    assert line.grams == 200 and ask["word"].search and not fits(line, "vegan", facts, profile)
    prepared = answered(line, Told(kind="word", about="zorbled", choice="prepared"), facts, profile)
    assert fits(prepared, "vegan", facts, profile)
    buttered = answered(line, Told(kind="word", about="zorbled", ingredient="butter"), facts, profile)
    assert not fits(buttered, "vegan", facts, profile) and [r.key for r in beside_of(buttered, facts)] == ["butter"]
    struck = answered(buttered, Told(kind="beside", about="butter"), facts, profile)
    assert fits(struck, "vegan", facts, profile)
    kitchen = frozenset({("zorbled", line.ingredient)})
    assert read_lines("200 g potatoes, zorbled", facts, profile, kitchen)[0].unread == ()
    assert read_lines("200 g carrots, zorbled", facts, profile, kitchen)[0].unread == ("zorbled",)


def test_a_spelling_is_offered_and_never_lands_on_something_inert(facts, profile):
    line, ask = asked("100 g raspbery", facts, profile)
    assert line.ingredient == "raspberry" and not fits(line, "vegan", facts, profile) and "mean" in ask["spelling"].text
    assert fits(answered(line, Told(kind="spelling", about=line.guessed, choice="yes"), facts, profile), "vegan", facts, profile)
    for text in ("50 g wafers", "10 g watter", "10 g sugarr", "5 g salts of moon", "50 g tapiocka starch", "5 g tartare", "50 g butterfat"):
        (line,) = read_lines(text, facts, profile)
        group = facts.ingredients[line.ingredient].group if line.ingredient else ""
        assert group not in ("water_juice", "sugar", "salt", "starch", "acid", "leavener"), text


def test_what_is_not_asked_cannot_be_answered(facts, profile):
    line, _ = asked("200 g flour", facts, profile)
    for told in (Told(kind="which", about="all_purpose_flour", choice="egg"), Told(kind="word", about="x", choice="prepared")):
        with pytest.raises(CannotBe):
            answered(line, told, facts, profile)
    with pytest.raises(CannotBe):
        answered(BatterLine(text="x", unread=("x",)), Told(kind="word", about="x", ingredient="unobtainium"), facts, profile)


@pytest.mark.parametrize(
    ("text", "grams"),
    [
        ("a cup and a quarter of flour", 156.25),
        ("a fourth of a cup of sugar", 50),
        ("2 cups minus 2 tbsp sugar", 375),
        ("2 cups flour minus 2 tbsp", 234.4),
        ("a pinch and a half of salt", 0.5624),
        ("2 dessert spoons of sugar", 16.67),
        ("500 mils milk", 515.7),
        ("1 and 1/2 cups buttermilk", 367.5),
        ("zest of one lemon", 6),
        ("one scoop of whey protein", 30),
        ("1 cup coconut milk from a can", 226),
        ("a pat of butter", 5),
        ("a splash more milk", 10.31),
        ("three quarters of a cup of sugar", 150),
    ],
)
def test_spoken_amounts(text, grams, facts, profile):
    (line,) = read_lines(text, facts, profile)
    assert line.grams == pytest.approx(grams, rel=0.01) and not line.problem


def test_amounts_that_hang_together(facts, profile):
    three = read_lines("half a teaspoon each of salt, sugar and baking powder", facts, profile)
    assert [(x.ingredient, round(x.grams, 1)) for x in three] == [("salt", 3.0), ("sugar", 2.1), ("baking_powder", 2.3)]
    (kept_back,) = read_lines("2 cups milk, plus up to 1 cup more", facts, profile)
    assert kept_back.ranged and kept_back.low < 2.05 * 244 and kept_back.high > 2.95 * 244
    eggs, milk = read_lines("2 eggs\nmilk to make up to 2 cups", facts, profile)
    assert milk.grams == pytest.approx((473.2 - eggs.grams / 1.03) * 244 / 236.6, rel=0.01)
    starch, water = read_lines("1 egg replacer", facts, profile)
    assert (starch.ingredient, water.ingredient) == ("egg_replacer", "water")


def test_prose_is_set_aside_and_its_foods_are_not_lost(facts, profile):
    text = "Moonrise pancakes\nServes 4\nPrep: 10 minutes\nDRY\n200 g flour\n250 ml milk\nTo serve:\nmaple syrup\nMethod\nWhisk the flour and milk.\nMelt some butter in a pan."
    lines = read_lines(text, facts, profile)
    assert [x.ingredient for x in lines if x.where == "batter"] == ["all_purpose_flour", "whole_milk"]
    assert [(x.ingredient, x.grams) for x in lines if x.where == "plate"] == [("maple_syrup", 20)]
    named = [x for x in lines if x.maybe]
    assert [x.maybe for x in named] == [("butter",)] and named[0].where == "aside"
    without = read_lines(text.replace("250 ml milk", "250 ml oat milk").replace("Whisk the flour and milk.", ""), facts, profile)
    assert judge(without, facts.diets["dairy_free"], facts, profile).verdict == "cannot_vouch"


@pytest.mark.parametrize(
    ("text", "diet", "word"),
    [("200 g gf flour (or regular)", "gluten_free", "regular"), ("200 g flour\n30 g maple or honey", "vegan", "honey")],
)
def test_an_answer_never_repeats_the_choice_that_it_closed(text, diet, word, facts, profile):
    """What an adaptation chose is what its lines say: read again, they fit as before."""
    base = Batter(lines=read_lines(f"{text}\n300 ml oat drink\n1 banana\n8 g baking powder", facts, profile), form="griddle")
    answer = adapt(base, Wishes(diets=(diet,), alternatives=1), facts, profile).answers[0]
    said = "\n".join(line.text for line in answer.analysis.batter.lines)
    assert word not in said and judge(read_lines(said, facts, profile), facts.diets[diet], facts, profile).verdict == "fits"


@pytest.mark.parametrize(
    ("text", "diet"),
    [
        ("Note: may contain nuts", "nut_free"),
        ("Notes:\ncontains wheat", "gluten_free"),
        ("Tip: contains cricket", "vegan"),
        ("To serve: lemon and honey", "vegan"),
        ("Walnut butter:\n5 g salt", "nut_free"),
        ("Optional add-ins: 20 g white chocolate", "dairy_free"),
    ],
)
def test_what_notes_and_headings_tell_is_heard(text, diet, facts, profile):
    """A note, a heading and what stands behind it in its line count in the verdicts of the whole batter."""
    lines = read_lines(f"100 g certified gluten-free rice flour\n200 g water\n{text}", facts, profile)
    judged = [judge(lines, facts.diets[diet], facts, profile, where=w).verdict for w in ("batter", "plate")]
    assert judged != ["fits", "fits"]


def test_a_title_is_no_ingredient_and_a_food_for_a_dish_is_one(facts, profile):
    titles = ("Dutch baby for 4", "Pumpkin spice waffles (serves 6)", "Blini, serves 4-6 people", "Scones for two", "Crêpes for 4 guests")
    assert {x.where for t in titles for x in read_lines(t, facts, profile)} == {"aside"}
    foods = ("sugar for the waffles", "milk for 4 pancakes", "butter for pancakes", "spinach, baby")
    assert [x.ingredient for t in foods for x in read_lines(t, facts, profile)] == ["sugar", "whole_milk", "butter", "spinach"]


def test_a_line_may_open_its_own_section(facts, profile):
    text = "Crêpes (gluten-free option)\nWet: 300 ml water\nTopping: 50 g sugar\nButter: 20 g\nStorage: keeps a day\n100 g rice flour"
    assert [(x.where, x.ingredient, bool(x.problem)) for x in read_lines(text, facts, profile)] == [
        ("aside", None, False), ("batter", "water", False), ("plate", "sugar", False), ("batter", "butter", False), ("aside", None, False),
        ("batter", "white_rice_flour", False),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "where"),
    [
        ("okonomi sauce & mayo to serve", "plate"),
        ("To serve:\n2 blorfs", "plate"),
        ("2 blorfs", "batter"),
        ("no blorfs in g for the pan", "plate"),
    ],
)
def test_what_is_not_understood_stands_where_its_line_puts_it(text, where, facts, profile):
    line = read_lines(text, facts, profile)[-1]
    assert line.unresolved and line.where == where


def test_a_whole_name_is_never_split_at_a_joint_of_its_own(facts, profile):
    """Every name that holds a word which opens a clause is read as its own row."""
    jointed = ["whey from yogurt", "half and half", "pancake and waffle mix"]
    for name in jointed:
        (line,) = read_lines(f"100 g {name}", facts, profile)
        assert line.ingredient in facts.names.resolve(name).ids and not line.also, name
