"""The allergens that are kept apart, by their tokens, and the words by which a pack or a cook's own file names them."""

import re
from typing import Annotated

from pydantic import AfterValidator

ALLERGENS = (  # what a breakfast meets most comes first
    "wheat", "rye", "barley", "oats", "milk", "egg", "soy", "peanut", "tree_nut", "sesame", "lupin", "mustard", "celery", "sulphite", "coconut", "fish",
    "crustacean", "mollusc",
)  # fmt: skip
TREE_NUTS = ("almond", "hazelnut", "walnut", "cashew", "pecan", "pistachio", "brazil_nut", "macadamia", "chestnut", "pine_nut")
FROM_ANIMALS = ("milk", "egg", "fish", "crustacean", "mollusc")
SAME = {
    "nut": "tree_nut", "spelt": "wheat", "kamut": "wheat", "khorasan": "wheat", "durum": "wheat", "semolina": "wheat", "emmer": "wheat", "einkorn": "wheat",
    "malt": "barley", "barley_malt": "barley", "oat": "oats", "dairy": "milk", "lactose": "milk", "butter": "milk", "cream": "milk", "cheese": "milk", "whey": "milk",
    "casein": "milk", "milk_sugar": "milk", "buttermilk": "milk", "yoghurt": "milk", "yogurt": "milk", "egg_white": "egg", "egg_yolk": "egg", "soya": "soy", "soybean": "soy", "soya_bean": "soy", "soy_lecithin": "soy",
    "soya_lecithin": "soy", "groundnut": "peanut", "lupine": "lupin", "sulfite": "sulphite", "sulphur_dioxide": "sulphite", "sulfur_dioxide": "sulphite", "sesame_seed": "sesame",
    "prawn": "crustacean", "shrimp": "crustacean", "crab": "crustacean", "lobster": "crustacean", "mussel": "mollusc", "oyster": "mollusc", "squid": "mollusc",
    "brazil": "tree_nut:brazil_nut",
}  # fmt: skip


def token_of(word: str) -> str:
    """The token of an allergen as someone wrote it ("Eggs", "tree nuts", "Hazelnut"). ValueError, in words, where it names none: taken for
    nothing, it would vouch for what nobody read."""
    key = re.sub(r"[^a-z]+", "_", word.casefold().removeprefix("tree_nut:")).strip("_")
    for name in (key, key.removesuffix("s"), f"{key}s"):
        if name in ALLERGENS:
            return name
        if name in TREE_NUTS:
            return f"tree_nut:{name}"
        if name in SAME:
            return SAME[name]
    kept = ", ".join(a.replace("_", " ") for a in ALLERGENS)
    raise ValueError(f"“{word}” is none of the allergens that are kept apart here: {kept}")


AllergenToken = Annotated[str, AfterValidator(token_of)]
