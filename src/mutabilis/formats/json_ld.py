"""Recipes as schema.org JSON-LD (https://schema.org/Recipe), alone or inside a saved web page. Nothing is fetched."""

import html
import json
import re
from collections.abc import Iterator, Mapping
from typing import Any, Literal

from lxml import etree

from mutabilis.core.facts import AllFacts
from mutabilis.core.measures.profile import Profile
from mutabilis.core.recipe.card import Card

from .shapes import MOST_LINES, MOST_RECIPES, Found, Unreadable, batter_of, clean, decoded, number_in, said_name

NOT_CARRIED = (
    "ranges and how sure an amount is",
    "balances and the reasons of a change",
    "the family of versions",
    "when it was made and what came of it",
)
# Marks that pages leave in their recipe data; anything else in angle brackets is the cook's own text.
_TAG = re.compile(
    r"</?(?:a|b|i|u|p|br|em|strong|span|div|sup|sub|ul|ol|li|small|font|script|style|img|h[1-6])\b[^<>]{0,300}>", re.IGNORECASE
)
_DIETS = {"vegan": "VeganDiet", "vegetarian": "VegetarianDiet", "gluten_free": "GlutenFreeDiet", "low_sodium": "LowSaltDiet"}


def read(data: bytes, facts: AllFacts, profile: Profile) -> tuple[Found, ...]:
    """Every recipe of a JSON-LD file or of a saved page. A block that is broken is passed over and named; Unreadable where no
    recipe is left."""
    text = decoded(data)
    blocks, broken = [text], 0
    if "<" in text[:2000] and re.search(r"<(?:!doctype|html|head|script|body|meta)\b", text, re.IGNORECASE):
        blocks = _scripts(text)
        if not blocks:
            raise Unreadable("this page carries no recipe data (JSON-LD); select its ingredient list and paste it as text")
    found: list[Found] = []
    for block in blocks:
        try:
            data_ = json.loads(block, parse_constant=lambda _: None)
        except (ValueError, RecursionError):
            broken += 1
            continue
        for recipe in _recipes(data_):
            if len(found) < MOST_RECIPES and (one := _recipe(recipe, facts, profile)) is not None:
                found.append(one)
    if not found:
        raise Unreadable(
            "its recipe data are broken, and no recipe could be read" if broken else "there is no recipe with ingredients in it"
        )
    if broken:
        left = (f"{broken} block{'s' if broken > 1 else ''} of recipe data that are broken",)
        found = [Found(f.name, f.batter, f.note, (*f.left_out, *left)) for f in found]
    return tuple(found)


class _Scripts:
    """Gathers what stands in the scripts of recipe data, and nothing else of a page."""

    def __init__(self) -> None:
        self._blocks: list[list[str]] = []
        self._inside = False

    def start(self, tag: str, attrs: Mapping[str, str]) -> None:
        """A tag opens."""
        if tag == "script":
            self._inside = (attrs.get("type") or "").split(";")[0].strip().lower() == "application/ld+json"
            if self._inside:
                self._blocks.append([])

    def end(self, tag: str) -> None:
        """A tag closes."""
        self._inside = self._inside and tag != "script"

    def data(self, data: str) -> None:
        """Text stands between tags."""
        if self._inside:
            self._blocks[-1].append(data)

    def close(self) -> list[str]:
        """The page is over: its blocks."""
        return ["".join(b) for b in self._blocks]


def _scripts(text: str) -> list[str]:
    """The recipe data of a page, by a parser whose time grows with the page's length and no faster, whatever is in it."""
    parser = etree.HTMLParser(target=_Scripts(), encoding="utf-8")
    try:
        parser.feed(text.encode("utf-8", "replace"))
        blocks = parser.close()
    except etree.LxmlError:
        return []
    return [b for b in (re.sub(r"^\s*<!--|-->\s*$|^\s*//<!\[CDATA\[|//\]\]>\s*$", "", b).strip() for b in blocks) if b]


def _recipes(data: Any) -> Iterator[dict[str, Any]]:
    """Everything of the type Recipe, however it is nested; breadth first, so that no depth can exhaust the stack."""
    queue, seen = [data], 0
    while queue and seen < 200_000:
        node = queue.pop(0) if len(queue) < 1000 else queue.pop()
        seen += 1
        if isinstance(node, list):
            queue += node
        elif isinstance(node, dict):
            kinds = node.get("@type", "")
            kinds = kinds if isinstance(kinds, list) else [kinds]
            if any(isinstance(k, str) and k.rsplit("/", 1)[-1] == "Recipe" for k in kinds):
                yield node
            else:
                queue += [v for v in node.values() if isinstance(v, (dict, list))]


def _recipe(recipe: dict[str, Any], facts: AllFacts, profile: Profile) -> Found | None:
    listed = recipe.get("recipeIngredient", recipe.get("ingredients", []))
    lines = [
        x for x in (listed.split("\n") if isinstance(listed, str) else listed if isinstance(listed, list) else []) if isinstance(x, str)
    ]
    plain = [" ".join(_plain(x).split()) for x in lines]
    plain = [x for x in plain if x][:MOST_LINES]
    if not plain:
        return None
    name = said_name(_plain(recipe.get("name") if isinstance(recipe.get("name"), str) else ""))
    note = " ".join(_plain(recipe.get("description") if isinstance(recipe.get("description"), str) else "").split())[:1000]
    batter = batter_of("\n".join(plain), name, facts, profile, number_in(recipe.get("recipeYield")), note)
    left = ["the method: it is derived afresh from the batter"] if recipe.get("recipeInstructions") else []
    if recipe.get("nutrition"):
        left.append("its nutrition: it is computed afresh")
    if len(lines) > MOST_LINES:
        left.append(f"lines after the first {MOST_LINES}")
    return Found(name, batter, note, tuple(left))


def _plain(text: str | None) -> str:
    return clean(html.unescape(_TAG.sub(" ", html.unescape((text or "")[:20_000]))))


def _said(card: Card, of: Literal["batter", "plate", "side"]) -> list[str]:
    """The lines of the batter, of the plate, or of the dishes beside it, each under its heading."""
    found = []
    for g in card.groups:
        if of == ("side" if g.side else "plate" if g.use == "plate" else "batter"):
            after = ", to serve" if of == "plate" else ""
            found += [f"{g.title}:"] * g.side + [f"{x.grams:.10g} g {x.name}{x.said}{after}" for x in g.lines]
    return found


def write(card: Card, saved: str | None = None) -> bytes:
    """A card as a schema.org Recipe. A diet is claimed only where its verdict is "fits"."""
    n = card.per_piece
    body: dict[str, Any] = {
        "@context": "https://schema.org", "@type": "Recipe", "name": card.name, "description": card.note, "recipeCategory": card.form_label,
        "recipeYield": f"{card.servings:g} servings", "recipeIngredient": [*_said(card, "batter"), *_said(card, "plate"), *card.unread, *_said(card, "side")],
        "recipeInstructions": [{"@type": "HowToStep", "name": s.title, "text": s.text} for s in card.steps],
        "suitableForDiet": [f"https://schema.org/{_DIETS[v.diet]}" for v in card.verdicts if v.verdict == "fits" and v.diet in _DIETS],
    }  # fmt: skip
    if saved:
        body["datePublished"] = saved[:10]
    if n:
        body["nutrition"] = {
            "@type": "NutritionInformation", "servingSize": "1 piece", "calories": f"{n['kcal']:.0f} kcal", "fatContent": f"{n['fat_g']:.1f} g",
            "proteinContent": f"{n['protein_g']:.1f} g", "carbohydrateContent": f"{n['carb_g']:.1f} g", "fiberContent": f"{n['fibre_g']:.1f} g",
            "sugarContent": f"{n['sugars_g']:.1f} g", "sodiumContent": f"{n['sodium_mg']:.0f} mg",
        }  # fmt: skip
    return json.dumps(body, ensure_ascii=False, indent=2).encode()
