"""What a batter contains and may contain: the fourteen of the EU and the nine of the US, gluten by its name, coconut as a class of its own."""

from collections.abc import Iterable
from functools import lru_cache

from ..batter.batter import BatterLine
from ..food.ingredients import Ingredient
from .facts import DietFacts

GLUTEN_CEREALS = ("wheat", "rye", "barley")
# What is roasted, ground and packed on the same lines: packs of the one often name traces of the other (as labels usually do, a judgement).
PACKED_BESIDE = {"peanut": ("tree_nut",), "tree_nut": ("peanut",)}
UNREAD_LINE = "unknown (a line was not read)"
UNREAD_WORD = "unknown (a word was not read)"


def said(token: str, facts: DietFacts) -> Ingredient:
    """A thing of which a line tells only an allergen, an animal or a trace, as an ingredient to be judged."""
    kind, _, rest = token.partition(":")
    return _said(token, facts.ingredients[rest] if kind == "traces-of" else facts.ingredients["water"])


@lru_cache(maxsize=2048)
def _said(token: str, base: Ingredient) -> Ingredient:
    kind, _, rest = token.partition(":")
    if kind == "traces-of":
        traces = tuple(f"may:{t.rpartition(':')[2] if t.startswith(('check:', 'may:')) else t}" for t in base.allergens)
        gluten = "no" if base.contains_gluten == "no" else "risk"
        update: dict[str, object] = {
            "name": f"traces of {base.name} named in the line",
            "allergens": traces,
            "contains_gluten": gluten,
            "animal": "none",
        }
    elif kind == "animal":
        update = {"name": f"“{rest}” in the line", "animal": rest}
    elif token == "gluten":
        update = {"name": "“gluten” in the line", "contains_gluten": "risk"}
    else:
        update = {"name": f"“{rest.replace('_', ' ') or token}” in the line", "allergens": (token,)}
        if token in GLUTEN_CEREALS:
            update["contains_gluten"] = "yes"
        elif token == "oats" or rest in (*GLUTEN_CEREALS, "oats"):
            update["contains_gluten"] = "risk"
    return base.model_copy(update={"id": f"said:{token}", **update})


def in_words(token: str) -> str:
    """An allergen as it is said.

    >>> in_words("tree_nut:almond"), in_words("tree_nut")
    ('almond', 'tree nut')
    """
    return token.replace("tree_nut:", "").replace("_", " ")


def allergens(lines: Iterable[BatterLine], facts: DietFacts) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """(contains, may contain), each sorted, gluten behind its cereals. What stands beside a food counts as it does; what a line leaves open may be in it."""
    contains: set[str] = set()
    may: set[str] = set()
    for line in lines:
        if line.ingredient is None and line.where != "aside":
            may.add(UNREAD_LINE)
        if line.unread or line.guessed:
            may.add(UNREAD_WORD)
        for id_ in (line.ingredient, *line.also):
            if id_:
                _tell(facts.ingredients[id_], contains, may)
        for token in line.heard:
            _tell(said(token, facts), contains, may)
        for id_ in line.maybe:
            _tell(facts.ingredients[id_], may, may)
    may -= contains
    may -= {f"{c} (check the pack)" for c in contains} | ({"gluten (not certified)"} if "gluten" in contains else set())
    return tuple(sorted(contains, key=lambda c: (c == "gluten", c))), tuple(sorted(may))


def _tell(i: Ingredient, contains: set[str], may: set[str]) -> None:
    for token in i.allergens:
        kind, _, rest = token.partition(":")
        if "rennet" in (token, rest):
            continue  # minded by vegetarians, no allergen
        if kind == "check":
            may.add("anything (pack not read)" if rest == "any" else f"{rest} (check the pack)")
        elif kind == "may":
            may.add(rest)
        elif kind != "cross":
            contains.add(token)
    if i.contains_gluten == "yes":
        contains.add("gluten")
    elif i.contains_gluten == "risk":
        may.add("gluten (not certified)")
