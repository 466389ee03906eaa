"""A card that is shared as text: whatever keeps somebody from harm is in it, whole."""

import dataclasses

import pytest

from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.recipe.card import card

BATTERS = {
    "plain": "160 g plain flour\n270 g whole milk\n2 eggs\n35 g butter\n10 g baking powder\n3 g salt",
    "unread": "160 g plain flour\n270 g oat drink\na good handful of moonlight\n60 g ground almonds",
    "long": "\n".join(f"{n + 1} g sugar" for n in range(30)) + "\n200 g flour\n300 g milk",
}


@pytest.mark.parametrize("name", BATTERS)
def test_nothing_of_a_card_that_matters_is_lost_on_the_way(pure, name, batter, facts, profile):
    diets = {k: facts.diets[k] for k in ("vegan", "gluten_free")}
    made = card(name, analyse(batter(BATTERS[name]), facts, profile, diets), list(diets), facts, profile)
    text = pure("p.cardText(a, p.numbersFor('comma'))", plain(made))
    assert text.startswith(f"{name}\n") and text.count("g ") >= sum(len(g.lines) for g in made.groups)
    for said in (*made.cautions, *made.unread, *(s.text for s in made.steps), *(v.reason for v in made.verdicts)):
        assert said in text
    assert [x for x in made.contains if x.replace("tree_nut:", "").replace("_", " ") not in text] == []
    assert ("Vegan: does not fit" in text or "Vegan: cannot be vouched for" in text) and "Contains: " in text


def plain(x):
    if dataclasses.is_dataclass(x):
        return {f.name: plain(getattr(x, f.name)) for f in dataclasses.fields(x)}
    if isinstance(x, tuple | list):
        return [plain(y) for y in x]
    return {k: plain(v) for k, v in x.items()} if isinstance(x, dict) else x
