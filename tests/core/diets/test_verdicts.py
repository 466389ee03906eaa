"""Verdicts: never falsely safe, never taken in by a false friend, and always with the line and the rule."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mutabilis.core.batter.batter import Batter, BatterLine
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.diets.rules import Clause, DietRule, read_rule
from mutabilis.core.diets.verdicts import WORST, judge, judge_ingredient
from mutabilis.core.food.ingredients import OWN_PACK

CONFLICTS, VOUCH, FITS = "conflicts", "cannot_vouch", "fits"

# diet, what the cook wrote, verdict
CASES = [
    *(
        ("gluten_free", name, CONFLICTS)
        for name in (
            "spelt flour",
            "khorasan flour",
            "einkorn flour",
            "emmer flour",
            "semolina",
            "wheat germ",
            "rye flour",
            "barley flour",
            "malt extract",
            "seitan powder",
            "beer",
            "breadcrumbs",
            "self-raising flour",
            "triticale flour",
            "malted milk powder",
        )
    ),
    *(
        ("gluten_free", name, VOUCH)
        for name in (
            "buckwheat flour",
            "rice flour",
            "glutinous rice flour",
            "cornflour",
            "tapioca starch",
            "ground flaxseed",
            "almond flour",
            "oat flour",
            "baking powder",
            "pancake mix",
            "gluten-free mix",
            "protein powder",
            "chocolate chips",
            "trail mix",
            "millet flour",
        )
    ),
    *(
        ("gluten_free", name, FITS)
        for name in (
            "certified gluten-free oat flour",
            "cream of tartar",
            "egg",
            "milk",
        )
    ),
    *(
        ("dairy_free", name, CONFLICTS)
        for name in (
            "ghee",
            "whey protein",
            "casein",
            "quark",
            "buttermilk powder",
            "butter",
            "kefir",
            "milk chocolate chips",
            "malted milk powder",
            "goat milk",
        )
    ),
    *(("dairy_free", name, VOUCH) for name in ("margarine", "vegan butter", "dark chocolate", "protein powder")),
    *(
        ("dairy_free", name, FITS)
        for name in (
            "coconut milk",
            "cocoa butter",
            "peanut butter",
            "cream of tartar",
            "soy milk",
            "butternut squash",
            "butter beans",
            "almond butter",
        )
    ),
    *(
        ("egg_free", name, CONFLICTS)
        for name in ("egg", "egg white", "yolk", "albumen", "dried egg white", "lemon curd", "duck egg", "quail egg")
    ),
    *(("egg_free", name, FITS) for name in ("eggplant", "flax", "aquafaba")),
    *(
        ("nut_free", name, CONFLICTS)
        for name in (
            "almond flour",
            "peanut butter",
            "walnuts",
            "hazelnut flour",
            "almond milk",
            "chocolate hazelnut spread",
            "peanut oil",
            "chestnut flour",
        )
    ),
    *(("nut_free", name, VOUCH) for name in ("vegetable oil", "trail mix", "plant milk", "dark chocolate chips", "almond extract")),
    *(("nut_free", name, FITS) for name in ("nutmeg", "butternut squash", "coconut flour", "tiger nut flour", "sunflower seeds")),
    *(
        ("vegan", name, CONFLICTS)
        for name in ("honey", "gelatine", "carmine", "lard", "marshmallows", "collagen", "ghee", "egg white powder")
    ),
    *(("vegan", name, VOUCH) for name in ("margarine", "protein powder", "pancake mix", "vegan butter", "food colouring")),
    *(("vegan", name, FITS) for name in ("sugar", "oat milk", "cocoa butter", "buckwheat flour", "soy yogurt")),
    ("vegetarian", "gelatine", CONFLICTS),
    ("vegetarian", "honey", FITS),
    ("vegetarian", "bacon", CONFLICTS),
    ("soy_free", "tofu silken", CONFLICTS),
    ("soy_free", "soy lecithin", CONFLICTS),
    ("soy_free", "oil spray", VOUCH),
    ("soy_free", "pea drink", FITS),
    ("wheat_free", "rye flour", FITS),
    ("wheat_free", "spelt flour", CONFLICTS),
    ("lactose_free", "lactose-free milk", FITS),
    ("lactose_free", "ghee", VOUCH),
    ("lactose_free", "milk", CONFLICTS),
    ("no_added_sugar", "maple syrup", CONFLICTS),
    ("no_added_sugar", "banana", FITS),
    ("no_added_sugar", "granola", VOUCH),
    ("oil_free", "butter", CONFLICTS),
    ("oil_free", "almond butter", FITS),
    ("tree_nut_free", "peanut butter", FITS),
    ("peanut_free", "almond flour", FITS),
]


@pytest.mark.parametrize(("diet", "name", "verdict"), CASES, ids=[f"{d}: {n}" for d, n, _ in CASES])
def test_verdict_on(diet, name, verdict, batter, facts, profile):
    lines = batter(f"50 g {name}").lines
    judged = judge(lines, facts.diets[diet], facts, profile)
    assert judged.verdict == verdict
    if verdict != FITS:
        assert judged.reasons[0].line == 0 and facts.ingredients[lines[0].ingredient].short in judged.reasons[0].text


def test_settings_decide(batter, facts, profile):
    def verdict(diet, name, **settings):
        return judge(batter(f"50 g {name}").lines, facts.diets[diet], facts, profile.model_copy(update=settings)).verdict

    assert verdict("vegan", "honey", honey="lenient") == FITS
    assert verdict("vegan", "sugar", refined_sugar="strict") == VOUCH
    assert verdict("gluten_free", "certified gluten-free oat flour", oats="none") == CONFLICTS
    assert verdict("gluten_free", "oat flour", oats="any") == FITS
    assert verdict("gluten_free", "buckwheat flour", uncertified_flour="read_the_pack") == FITS
    assert verdict("gluten_free", "pancake mix", uncertified_flour="read_the_pack") == VOUCH
    assert verdict("nut_free", "coconut flour", coconut_is_nut=True) == CONFLICTS
    assert verdict("vegan", "gluten-free flour blend", traces="cannot_vouch") == VOUCH


def test_a_limit_counts_servings(analysed):
    few, many = (analysed("100 g flour\n150 g milk", servings=n).diets["low_carb"] for n in (1, 20))
    assert few.verdict == CONFLICTS and many.verdict == FITS
    assert "net carbohydrate" in few.reasons[0].text


def test_what_cannot_be_read_is_safe_for_nobody(analysed):
    for text in ("200 g flour\n50 g moon dust", "", "1 cup oat milk or milk\n"):
        a = analysed(text)
        assert a.diets["vegan"].verdict == VOUCH, text
    assert "unknown (a line was not read)" in analysed("50 g moon dust").may_contain


def test_a_pack_clears_its_own_line_and_says_so(batter, facts, profile):
    lines = batter("50 g protein powder").lines
    read = PackReading(
        ingredient="protein_powder",
        pack="Hill stores, 1 kg",
        by="Ilsabet",
        on="2026-03-02",
        contains=("soy",),
        vegan=True,
        certified_gluten_free=True,
        added_sugar=False,
    )
    with_pack = {k: judge(lines, r, facts, profile, None, {"protein_powder": read}) for k, r in facts.diets.items()}
    assert with_pack["vegan"].verdict == with_pack["gluten_free"].verdict == with_pack["nut_free"].verdict == FITS
    assert with_pack["soy_free"].verdict == CONFLICTS
    assert "Ilsabet" in with_pack["vegan"].cautions[0].text


@pytest.mark.parametrize(
    ("diet", "lines", "said"),
    [
        ("wheat_free", "50 g rye flour", ["wheat may travel with medium rye flour: read its pack"]),
        ("wheat_free", "50 g rolled oats\n50 g buckwheat flour\n20 g rolled oats", ["wheat may travel with rolled oats and whole buckwheat flour: read their packs"]),
        ("wheat_free", "50 g certified gluten-free oat flour\n50 g maple syrup", []),
        ("wheat_free", "50 g rye flour\n50 g spelt flour", []),  # it does not fit: that is enough
        ("peanut_free", "50 ml almond drink", ["peanut may travel with almond drink: read its pack"]),
        ("tree_nut_free", "50 g peanut butter", ["tree nut may travel with peanut butter: read its pack"]),
        ("peanut_free", "50 g sunflower seeds\n50 g coconut flour", []),
        ("gluten_free", "50 g certified gluten-free oat flour", []),
    ],
)  # fmt: skip
def test_what_may_travel_with_a_food_is_told_where_it_fits(diet, lines, said, batter, facts, profile):
    cautions = judge(batter(lines).lines, facts.diets[diet], facts, profile).cautions
    assert [c.text for c in cautions if "may travel" in c.text] == said


def test_a_pack_that_was_read_for_it_ends_what_may_travel(batter, facts, profile):
    lines = batter("50 g rye flour").lines

    def said(known=facts, **read):
        reading = PackReading(ingredient="rye_flour_medium", pack="grey bag", by="Ilsabet", on="2031-03-02", **read)
        judged = judge(lines, facts.diets["wheat_free"], known, profile, None, {"rye_flour_medium": reading})
        return judged.verdict, any("may travel" in c.text for c in judged.cautions)

    assert said() == (FITS, False)  # the whole label
    assert said(part=True, answers=("wheat",)) == (FITS, False)
    assert said(part=True, answers=("milk",)) == (FITS, True)
    assert said(may_contain=("wheat",)) == (VOUCH, False)
    rye = facts.ingredients["rye_flour_medium"]
    own = replace(facts, ingredients={**facts.ingredients, rye.id: rye.model_copy(update={"source": OWN_PACK})})
    assert not judge(lines, facts.diets["wheat_free"], own, profile).cautions


def test_traces_that_a_pack_names_are_told_once_and_travel_on_to_what_is_packed_beside(batter, facts, profile):
    lines, almond = batter("50 g almonds").lines, facts.ingredients["almonds"]
    rule = DietRule(key="own", label="Own", deny=(Clause(allergen=("peanut", "wheat"), reason="holds it"),))

    def said(*allergens, gluten="no"):
        made = almond.model_copy(update={"allergens": allergens, "contains_gluten": gluten})
        known = replace(facts, ingredients={**facts.ingredients, "almonds": made})
        return [c.text.partition(" with ")[0] for c in judge(lines, rule, known, profile.model_copy(update={"traces": "caution"})).cautions]

    assert said("may:tree_nut") == ["peanut may travel"]
    assert said("tree_nut:almond", gluten="risk") == ["peanut may travel", "wheat may travel"]
    assert [x.partition(": ")[2] or x for x in said("tree_nut:almond", "may:peanut", gluten="risk")] == [
        "may hold traces of peanut",
        "wheat may travel",
    ]


def test_a_faulty_rule_file_is_refused_with_its_place():
    with pytest.raises(ValueError, match=r"mine\.toml, line 3: deny\.0\.reason"):
        read_rule('key = "mine"\nlabel = "Mine"\n[[deny]]\nallergen = ["milk"]\n', "mine.toml")
    with pytest.raises(ValueError, match=r"mine\.toml: .*line 1"):
        read_rule("key = \n", "mine.toml")


def test_an_allow_list_allows_nothing_else(batter, facts, profile):
    rule = read_rule('key = "mine"\nlabel = "Mine"\nallow = ["white_rice_flour", "water"]\n', "mine.toml")
    assert judge(batter("50 g rice flour\n70 g water").lines, rule, facts, profile).verdict == FITS
    assert judge(batter("50 g rice flour\n1 g salt").lines, rule, facts, profile).verdict == CONFLICTS


@given(st.data())
def test_adding_a_line_never_makes_it_safer(facts, profile, data):
    ids = data.draw(st.lists(st.sampled_from(sorted(facts.ingredients)), min_size=1, max_size=6, unique=True))
    lines = tuple(BatterLine(text=i, ingredient=i, grams=10, low=10, high=10) for i in ids)
    for rule in facts.diets.values():
        fewer = Batter(lines=lines[:-1]).lines
        before = judge(fewer, rule, facts, profile).verdict if fewer else FITS
        assert WORST.index(judge(lines, rule, facts, profile).verdict) >= WORST.index(before)


def test_no_diet_calls_a_vague_food_safe(facts, profile):
    vague = [i for i in facts.ingredients.values() if i.pack_decides]
    assert len(vague) >= 10
    for i in vague:
        for key in ("vegan", "egg_free", "dairy_free", "gluten_free", "nut_free", "soy_free"):
            if not (key == "gluten_free" and i.contains_gluten == "no"):
                assert judge_ingredient(i, facts.diets[key], profile)[0] != FITS, (i.id, key)


def lined(where="batter", ingredient=None, **more):
    """A line made by hand."""
    grams = {"grams": 50.0} if ingredient else {}
    return BatterLine(text="x", where=where, ingredient=ingredient, **grams, **more)


def told_by(lines, diet, where, facts, profile, readings=None):
    """What is said, and of which line."""
    found = judge(tuple(lines), facts.diets[diet], facts, profile, where=where, readings=readings)
    return found.verdict, [(r.line, r.verdict) for r in found.reasons]


def test_what_an_instruction_names_counts_in_the_bowl_and_what_a_dishs_name_tells_in_that_dish(facts, profile):
    flour, egg = lined(ingredient="white_rice_flour"), lined(ingredient="egg")
    named, dish, prose = lined("aside", also=("butter",)), lined("aside", also=("butter",), side="Compote"), lined("aside")
    berry = lined("plate", ingredient="blueberry")
    for aside, bowl, plate in ((named, CONFLICTS, FITS), (dish, FITS, CONFLICTS), (prose, FITS, FITS)):
        lines = [aside, flour, berry]
        of_it = [(0, CONFLICTS)]
        assert told_by(lines, "dairy_free", "batter", facts, profile) == (bowl, of_it if bowl == CONFLICTS else [])
        assert told_by(lines, "dairy_free", "plate", facts, profile) == (plate, of_it if plate == CONFLICTS else [])
        assert told_by([aside, flour, egg], "egg_free", "batter", facts, profile) == (
            CONFLICTS,
            [(2, CONFLICTS)],
        )  # what comes after counts


@pytest.mark.parametrize("beside", ["also", "maybe"])
def test_the_pack_of_what_stands_beside_a_line_is_read_too(beside, facts, profile):
    certified = PackReading(ingredient="oat_drink", pack="blue", by="Ada", on="2026-01-01", certified_gluten_free=True)
    line = lined(ingredient="white_rice_flour_gf", **{beside: ("oat_drink",)})
    assert told_by([line], "gluten_free", "batter", facts, profile) == (VOUCH, [(0, VOUCH)])
    assert told_by([line], "gluten_free", "batter", facts, profile, {"oat_drink": certified}) == (FITS, [])


@pytest.mark.parametrize("open_", [{"unread": ("zorbled",)}, {"guessed": "flour"}])
def test_one_unknown_word_or_one_guess_is_enough_not_to_vouch(open_, facts, profile):
    assert told_by([lined(ingredient="white_rice_flour", **open_)], "dairy_free", "batter", facts, profile) == (VOUCH, [(0, VOUCH)])
