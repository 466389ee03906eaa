"""A verdict's reason in a word or two, for the line itself."""

import pytest

from mutabilis.core.diets.verdicts import in_short, judge_ingredient
from mutabilis.core.measures.profile import Profile
from mutabilis.data import load_facts

FACTS = load_facts()


@pytest.mark.parametrize(
    ("diet", "ingredient", "words"),
    [
        ("vegan", "whole_milk", "milk"), ("vegan", "egg", "egg"), ("vegan", "honey", "honey"), ("vegan", "gelatin", "meat"), ("vegan", "margarine", "animal?"), ("gluten_free", "barley_flakes", "gluten"),
        ("gluten_free", "chia_meal", "gluten?"), ("nut_free", "walnut_oil", "walnut"), ("nut_free", "dark_chocolate_chip", "traces of peanut?"), ("egg_free", "gf_flour_blend", "egg?"),
        ("egg_free", "margarine", "ask its pack"), ("lactose_free", "buttermilk", "lactose"), ("oil_free", "avocado_oil", "is an added fat"),
    ],
)  # fmt: skip
def test_a_reason_in_a_word(diet, ingredient, words):
    i = FACTS.ingredients[ingredient]
    _, reason, _ = judge_ingredient(i, FACTS.diets[diet], Profile())
    assert in_short(reason, i) == words


def test_every_reason_of_every_ingredient_is_short_and_none_is_lost():
    for rule in FACTS.diets.values():
        for i in FACTS.ingredients.values():
            verdict, reason, _ = judge_ingredient(i, rule, Profile())
            if verdict != "fits":
                short = in_short(reason, i)
                assert 0 < len(short) <= 40 and (verdict == "conflicts" or short.endswith(("?", "pack", "list")) or " " in short), (
                    rule.key,
                    i.id,
                    short,
                )
