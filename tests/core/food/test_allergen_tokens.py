"""What a label names is one of the allergens that are kept apart, however it is written; nothing else is let through as if it were none."""

import csv
from pathlib import Path

import pytest
from pydantic import ValidationError

import mutabilis.data
from mutabilis.core.diets.packs import PackReading
from mutabilis.core.food.allergen_tokens import ALLERGENS, SAME, TREE_NUTS, token_of
from mutabilis.core.food.pack_labels import Label, infer

FIGURES = {"kcal": 350, "fat_g": 2, "saturates_g": 0.5, "carbohydrate_g": 70, "sugars_g": 1, "fibre_g": 5, "protein_g": 10, "salt_g": 0}
WRITTEN = {
    "Eggs": "egg", "MILK": "milk", "tree nuts": "tree_nut", "nuts": "tree_nut", "Almonds": "tree_nut:almond", "tree_nut:hazelnut": "tree_nut:hazelnut", "Brazil nuts": "tree_nut:brazil_nut",
    "soya lecithin": "soy", "spelt": "wheat", "Oat": "oats", "lactose": "milk", "Sulphites": "sulphite", "prawns": "crustacean", "oysters": "mollusc", "pea-nuts": None, "gluten": None, "": None,
}  # fmt: skip


@pytest.mark.parametrize("word", WRITTEN)
def test_a_word_is_its_allergen_or_refused(word):
    if token := WRITTEN[word]:
        assert token_of(word) == token
    else:
        with pytest.raises(ValueError, match="kept apart"):
            token_of(word)
    assert all(token_of(t) == t for t in (*ALLERGENS, *SAME.values(), *(f"tree_nut:{nut}" for nut in TREE_NUTS)))


def test_every_token_of_the_table_is_kept_apart():
    with (Path(mutabilis.data.__file__).parent / "ingredients.csv").open() as rows:
        tokens = {
            t.partition(":")[2] if t.startswith(("check:", "may:", "cross:")) else t
            for row in csv.DictReader(rows)
            for t in row["allergens"].split(";")
            if t
        }
    assert all(token_of(t) == t for t in tokens - {"any", "rennet"}) and len(tokens) > 20


def test_an_own_pack_holds_what_its_label_says_in_any_spelling():
    made, _ = infer(
        Label.model_validate({**FIGURES, "id": "own_mix", "name": "mix", "kind": "flour", "contains": ["Eggs", "whey", "hazelnuts"]})
    )
    assert made.allergens == ("egg", "milk", "tree_nut:hazelnut") and made.animal == "egg"
    for wrong in ({"contains": ["eggz"]}, {"may_contain": ["gluten"]}, {"contains": ["fish"], "vegan": True}):
        with pytest.raises(ValidationError):
            Label.model_validate({**FIGURES, "id": "own_mix", "name": "mix", "kind": "flour", **wrong})
    read = {"ingredient": "gf_flour_blend", "pack": "blue", "by": "Ada", "on": "2026-05-01"}
    assert PackReading.model_validate({**read, "contains": ["Soya beans"]}).contains == ("soy",)
    with pytest.raises(ValidationError):
        PackReading.model_validate({**read, "contains": ["gluten"]})
