"""What the rows of the ingredient table are called."""

from typing import get_args

import pytest

from mutabilis.core.food.ingredients import GROUPS, KINDS
from mutabilis.core.food.pack_labels import Kind, Label, infer


def test_every_group_has_words_and_none_of_them_vouches_for_a_diet(facts):
    assert {i.group for i in facts.ingredients.values()} | set(KINDS) <= set(GROUPS)
    claims = {"free", "safe", "vegan", "fits"}
    assert not [words for words in GROUPS.values() if claims & set(words.replace("-", " ").split())]
    assert len(set(GROUPS.values())) == len(GROUPS)


@pytest.mark.parametrize("kind", get_args(Kind))
def test_an_own_pack_has_words_too(kind):
    numbers = dict.fromkeys(("kcal", "fat_g", "saturates_g", "carbohydrate_g", "sugars_g", "fibre_g", "protein_g", "salt_g"), 0)
    assert infer(Label(id="own_pack", name="own pack", kind=kind, **numbers))[0].group in GROUPS
