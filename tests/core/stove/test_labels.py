"""What stands on the label of what is kept, what the pan is greased with, and what has to be bought."""

import pytest

from mutabilis.core.batter.batter import Batter
from mutabilis.core.food.larder import to_buy
from mutabilis.core.heat.fats import fats_offered
from mutabilis.core.measures.profile import Profile
from mutabilis.core.reading.reading import read_lines
from mutabilis.core.stove.guide.guide import Guide
from mutabilis.core.stove.labels import labels
from mutabilis.data import load_facts

from .making import batch, event, poured_all

FACTS = load_facts()


@pytest.fixture
def kept():
    def made(
        text="200 g plain flour\n300 g milk\n1 egg\n30 g butter\n9 g baking powder\n40 g almonds, may contain traces of sesame",
        whom="Table 4",
    ):
        plan = Batter(lines=read_lines(text, FACTS, Profile()))
        events = (event("kept", what="batter_cold", amount=240.0, until=86_400.0), event("kept", what="gone", amount=1, until=1))
        one = batch(plan, *poured_all(plan, FACTS), *events).model_copy(update={"whom": whom})
        return labels(Guide(one, 1000.0, FACTS, Profile()), lambda s: f"day {s:.0f}")

    return made


def test_a_label_names_every_allergen_whoever_it_is_for_and_promises_nothing(kept):
    (label,) = kept()  # what is no longer known how to keep gets none
    contains = next(line for line in label if line.startswith("Contains"))
    assert all(word in contains for word in ("egg", "milk", "wheat", "gluten", "almond")) and "tree_nut" not in contains
    assert any(line.startswith("May contain") and "sesame" in line for line in label)
    assert label[-1] == "For Table 4" and any("not excluded" in line for line in label) and not any("free" in line for line in label)
    assert "use by day 86400" in label[1] and any(line.startswith("240 g, ") for line in label)


def test_a_label_of_what_holds_nothing_listed_says_no_more_than_that(kept):
    (label,) = kept("200 g rice flour, certified gluten-free\n300 g water\n3 g salt", whom="")
    assert "Contains: none of the listed allergens that is known" in label and not any(line.startswith("For ") for line in label)


def test_the_fat_to_take_first_is_one_the_guests_can_have_that_does_not_smoke():
    def offered(*diets, stock=(), celsius=185.0):
        return fats_offered(FACTS, [FACTS.diets[d] for d in diets], Profile(), {}, stock, celsius)

    free = offered("vegan", "dairy_free")
    order = [("fits", "cannot_vouch", "conflicts").index(f.verdict) for f in free]
    assert order == sorted(order) and free[0].verdict == "fits" and free[0].smokes_c > 185
    assert {f.id for f in free if f.verdict == "conflicts"} >= {"butter", "ghee"}
    butter = next(f for f in offered() if f.id == "butter")
    assert butter.verdict == "fits" and [f.id for f in offered()].index("butter") > [f.id for f in offered()].index("ghee")  # it smokes
    assert offered(stock={"sunflower_oil"})[0].id == "sunflower_oil"
    cool = offered(celsius=120.0)
    assert all(f.smokes_c > 120 for f in cool) and cool[0].name == min(f.name for f in cool)


def test_what_is_at_hand_is_not_bought_and_nothing_twice():
    assert to_buy(["egg", None, "oat_drink", "egg", "salt"], {"salt"}) == ("egg", "oat_drink")
    assert to_buy([], set()) == ()
