"""A diet as a file of rules: each clause bites on what it lists and on nothing else; a mistake in a file is named with its line."""

import pytest

from mutabilis.core.diets.packs import PackReading, standing
from mutabilis.core.diets.rules import ANIMALS, Clause, DietRule, Limit, check_rule, line_of, read_rule
from mutabilis.core.diets.verdicts import judge, judge_ingredient, worst
from mutabilis.core.food.allergen_tokens import ALLERGENS
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.data import load_facts

FACTS = load_facts()
PLAIN = next(i for i in FACTS.ingredients.values() if i.id == "water")


def rule(*deny, **more):
    return DietRule(key="on_trial", label="On trial", deny=deny, **more)


def thing(**changed):
    return PLAIN.model_copy(update={"id": "thing", "name": "thing", **changed})


def verdict(i, r, reading=None, **profile):
    return judge_ingredient(i, r, Profile(**profile), reading)[0]


@pytest.mark.parametrize("allergen", ALLERGENS)
@pytest.mark.parametrize(
    ("prefix", "strict", "lenient"),
    [
        ("", "conflicts", "conflicts"),
        ("check:", "cannot_vouch", "cannot_vouch"),
        ("may:", "cannot_vouch", "fits"),
        ("cross:", "fits", "fits"),
    ],
)
def test_every_allergen_bites_as_surely_as_it_is_known(allergen, prefix, strict, lenient):
    """Held: never. Only the pack can tell: not confirmed. Traces: not confirmed, unless the kitchen takes them as a caution. A cross-reaction is
    told, and decides nothing."""
    free = rule(Clause(allergen=(allergen,), reason=f"holds {allergen}"))
    i = thing(allergens=(f"{prefix}{allergen}",))
    assert verdict(i, free) == strict and verdict(i, free, traces="caution") == lenient
    other = next(a for a in ALLERGENS if a != allergen)
    assert verdict(thing(allergens=(f"{prefix}{other}",)), free) == "fits"
    if prefix in ("may:", "cross:"):
        assert judge_ingredient(i, free, Profile(traces="caution"), None)[2]  # what is let pass is still said


@pytest.mark.parametrize("kind", ["tree_nut:walnut", "check:tree_nut:walnut", "may:tree_nut:walnut"])
def test_a_kind_of_nut_is_a_nut(kind):
    assert verdict(thing(allergens=(kind,)), rule(Clause(allergen=("tree_nut",), reason="a nut"))) != "fits"
    assert verdict(thing(allergens=(kind,)), rule(Clause(allergen=("tree_nut:hazelnut",), reason="a hazelnut"))) == "fits"


@pytest.mark.parametrize("animal", ANIMALS)
def test_every_animal_bites_and_only_its_pack_clears_what_is_open(animal):
    free = rule(Clause(animal=(animal,), reason=f"comes from {animal}"))
    assert verdict(thing(animal=animal), free) == "conflicts" and verdict(thing(animal="none"), free) == "fits"
    open_ = thing(animal="check")
    vegan = PackReading(ingredient="thing", pack="Mill", by="Ottilie", on="2026-11-01", vegan=True)
    assert verdict(open_, free) == "cannot_vouch" and verdict(open_, free, vegan) == "fits"
    assert verdict(open_, free, vegan.model_copy(update={"vegan": None})) == "cannot_vouch"


@pytest.mark.parametrize(
    ("gluten", "tokens", "settings", "expected"),
    [("yes", ("wheat",), {}, "conflicts"), ("no", (), {}, "fits"), ("risk", (), {}, "cannot_vouch"), ("risk", (), {"uncertified_flour": "read_the_pack"}, "fits"),
     ("risk", ("oats",), {"oats": "any"}, "fits"), ("risk", ("check:any",), {"uncertified_flour": "read_the_pack"}, "cannot_vouch")],
)  # fmt: skip
def test_gluten_by_what_is_known_and_what_the_kitchen_allows(gluten, tokens, settings, expected):
    free = rule(Clause(gluten=("yes",), reason="holds gluten"))
    assert verdict(thing(contains_gluten=gluten, allergens=tokens), free, **settings) == expected


@pytest.mark.parametrize(("lactose", "expected"), [("", "conflicts"), ("no", "fits"), ("trace", "cannot_vouch"), ("check", "cannot_vouch")])
def test_lactose_by_what_is_left_of_it(lactose, expected):
    assert (
        verdict(thing(allergens=("milk",), animal="dairy", lactose=lactose), rule(Clause(lactose=True, reason="holds lactose"))) == expected
    )
    assert verdict(thing(lactose=lactose), rule(Clause(lactose=True, reason="holds lactose"))) == "fits"


@pytest.mark.parametrize(("added", "expected"), [("yes", "conflicts"), ("no", "fits"), ("check", "cannot_vouch")])
def test_added_sugar_by_its_pack(added, expected):
    free = rule(Clause(added_sugar=("yes",), reason="holds added sugar"))
    assert verdict(thing(added_sugar=added), free) == expected
    says = PackReading(ingredient="thing", pack="Mill", by="Ottilie", on="2026-11-01", added_sugar=False)
    assert verdict(thing(added_sugar=added), free, says) == ("conflicts" if added == "yes" else "fits")


def test_groups_ids_settings_and_softened_clauses():
    assert verdict(thing(group="sugar"), rule(Clause(group=("sugar",), reason="a sugar"))) == "conflicts"
    assert verdict(thing(), rule(Clause(ingredient=("thing",), reason="on the list"))) == "conflicts"
    honey = rule(Clause(ingredient=("thing",), only={"honey": "strict"}, reason="honey"))
    assert verdict(thing(), honey, honey="strict") == "conflicts" and verdict(thing(), honey, honey="lenient") == "fits"
    soft = rule(Clause(ingredient=("thing",), verdict="cannot_vouch", reason="perhaps"))
    assert verdict(thing(), soft) == "cannot_vouch"
    listed = rule(allow=("water",))
    assert verdict(PLAIN, listed) == "fits" and verdict(thing(), listed) == "conflicts"


def test_the_worst_of_several_decides_and_its_reason_is_told():
    both = rule(Clause(allergen=("egg",), verdict="cannot_vouch", reason="perhaps egg"), Clause(allergen=("milk",), reason="holds milk"))
    found = judge_ingredient(thing(allergens=("egg", "milk")), both, Profile(), None)
    assert found[0] == "conflicts" and "milk" in found[1] and "egg" not in found[1]
    assert worst([]) == "fits" and worst(["fits", "conflicts", "cannot_vouch"]) == "conflicts"


@pytest.mark.parametrize(("amount", "expected"), [(9.9, "fits"), (10.0, "fits"), (10.1, "conflicts")])
def test_a_limit_is_held_to_the_last_gram_and_told_by_its_name(amount, expected):
    lean = rule(limits=(Limit(nutrient="net_carb_g", most=10.0),))
    lines = read_lines("100 g water", FACTS, Profile())
    found = judge(lines, lean, FACTS, Profile(), {"net_carb_g": amount})
    assert found.verdict == expected
    if expected == "conflicts":
        assert found.reasons[0].text == "10.1 g net carbohydrate in a serving; On trial allows 10" and found.reasons[0].line is None


def test_a_part_of_a_label_answers_what_it_answers_and_a_whole_one_everything():
    free = rule(Clause(allergen=("sesame", "soy"), reason="no seeds"))
    i = thing(allergens=("check:sesame", "may:soy"))
    base = {"ingredient": "thing", "pack": "Mill", "by": "Ottilie", "on": "2026-11-01"}
    assert verdict(i, free, PackReading(**base, part=True, answers=("sesame",))) == "cannot_vouch"
    assert verdict(i, free, PackReading(**base, part=True, answers=("sesame", "soy"))) == "fits"
    assert verdict(i, free, PackReading(**base)) == "fits" and verdict(i, free, PackReading(**base, contains=("soy",))) == "conflicts"
    assert verdict(i, free, PackReading(**base, may_contain=("sesame",))) == "cannot_vouch"


def test_a_pack_in_use_decides_which_reading_stands():
    base = {"ingredient": "thing", "by": "Ottilie"}
    old, new = PackReading(**base, pack="Old", on="2026-11-20", vegan=True), PackReading(**base, pack="New", on="2026-11-01")
    assert standing([old, new], {})["thing"] is old  # the latest, where no pack is named
    assert standing([old, new], {"thing": "New"})["thing"] is new
    assert standing([old], {"thing": "New"}) == {}  # a new pack: what was read on the old one has lapsed


@pytest.mark.parametrize(
    ("text", "line", "words"),
    [('key = "a b"\nlabel = "X Y"', 1, "key"), ('key = "ab"\nlabel = "X"', 2, "label"), ('key = "ab"\nlabel = "XY"\n[[deny]]\nreason = "no"', 4, "reason"),
     ('key = "ab"\nlabel = "XY"\n[[limits]]\nnutrient = "salt"\nmost = 1', 4, "nutrient"), ('key = "ab"\nlabel = "XY"\ncolour = "red"', 3, "colour"),
     ('key = "ab"\nlabel = "XY"\n[[deny]]\nreason = "fine"\n[[deny]]\nonly = {moon = "full"}\nreason = "fine"', 6, "moon")],
)  # fmt: skip
def test_a_mistake_is_named_with_its_line(text, line, words):
    with pytest.raises(ValueError, match=rf"own\.toml, line {line}: .*{words}"):
        read_rule(text, "own.toml")


@pytest.mark.parametrize(
    ("deny", "word"), [({"ingredient": ("moon_jam",)}, "moon_jam"), ({"group": ("moons",)}, "moons"), ({"animal": ("unicorn",)}, "unicorn"), ({"allergen": ("moonlight",)}, "moonlight")],
)  # fmt: skip
def test_a_name_that_is_not_there_would_deny_nothing_and_is_refused(deny, word):
    (key,) = deny
    text = f'key = "ab"\nlabel = "XY"\n[[deny]]\nreason = "fine"\n{key} = ["{word}"]'
    assert line_of(text, ("deny", 0, key)) == 5
    with pytest.raises(ValueError, match=f"line 5: no {key} “{word}”"):
        check_rule(read_rule(text, "own.toml"), text, "own.toml", FACTS.ingredients)


@pytest.mark.parametrize(
    ("text", "place", "line"),
    [
        ("[[deny]]\n[[deny]]", ("deny", 1), 2),  # the table itself
        ("[[deny]]\n[[deny]]\ngroup = 3", ("deny", 1, "group"), 3),
        ("[[deny]]\ngroup = 3\n[[deny]]\ngroup = 4", ("deny", 1, "group"), 4),  # its own, not the first that is called so
        ('[[deny]]\nreason = "x"\n  [[deny]]\ngroup = 3', ("deny", 0, "group"), 1),  # not in the next table, however that is set off
        ("deny = [{group = 3}]", ("deny", 0, "group"), 1),  # tables in one line have no heads
        ('key = "ab"\nlabel = 3', ("label",), 2),
        ('key = "ab"', ("label",), 1),
    ],
)
def test_a_mistake_is_placed_on_its_line(text, place, line):
    assert line_of(text, place) == line


def test_a_word_that_is_let_through_must_be_known_as_well():
    """By itself or as a kind of what is known ("tree_nut:almond"); its line is the line of the list, also behind other tables."""
    text = 'key = "ab"\nlabel = "XY"\n[[deny]]\nreason = "fine"\nallergen = ["tree_nut:almond"]\n[[deny]]\nreason = "fine"\nallergen = ["milk"]'
    check_rule(read_rule(text, "own.toml"), text, "own.toml", FACTS.ingredients)
    loose = 'key = "ab"\nallow = ["moon_jam"]\nlabel = "XY"\n[[deny]]\nreason = "fine"\nallergen = ["milk"]'
    with pytest.raises(ValueError, match="line 2: no ingredient “moon_jam”"):
        check_rule(read_rule(loose, "own.toml"), loose, "own.toml", FACTS.ingredients)
    second = text.replace('"milk"]', '"moonlight"]')
    with pytest.raises(ValueError, match=r"own\.toml, line 8: .*moonlight"):
        check_rule(read_rule(second, "own.toml"), second, "own.toml", FACTS.ingredients)


def test_what_is_no_rule_is_refused_by_what_and_where():
    with pytest.raises(ValueError, match=r"^own\.toml: (?!nested).*line 2"):
        read_rule("key = 'ab'\nlabel = @", "own.toml")
    with pytest.raises(ValueError, match=r"^own\.toml, line 4: deny\.0\.reason: "):
        read_rule("key = 'ab'\nlabel = 'XY'\n[[deny]]\nreason = 'x'", "own.toml")


def test_what_is_nested_without_end_is_refused_in_words():
    with pytest.raises(ValueError, match=r"^own\.toml: nested too deeply$"):
        read_rule("x = " + "[" * 50_000, "own.toml")


def test_every_shipped_diet_reads_is_known_and_judges_what_it_is_about():
    about = {"vegan": "egg", "egg_free": "egg", "dairy_free": "whole_milk", "gluten_free": "all_purpose_flour", "nut_free": "almond_flour"}
    for key, id_ in about.items():
        assert verdict(FACTS.ingredients[id_], FACTS.diets[key]) == "conflicts", key
        assert verdict(FACTS.ingredients["water"], FACTS.diets[key]) == "fits", key
