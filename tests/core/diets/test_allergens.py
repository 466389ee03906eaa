"""Contains and may contain, the plate in every verdict, what an answer adds, potassium, and the figures that keep from harm."""

import pytest

from mutabilis.core.adapt.adapt import adapt
from mutabilis.core.adapt.wishes import Wishes
from mutabilis.core.analysis.analysis import analyse
from mutabilis.core.batter.batter import BatterLine
from mutabilis.core.diets.allergens import UNREAD_LINE, UNREAD_WORD, allergens, said
from mutabilis.core.diets.verdicts import judge_ingredient
from mutabilis.core.reading.reading import read_lines
from tests.conftest import PLAIN


def told(text, facts, profile):
    contains, may = allergens(read_lines(text, facts, profile), facts)
    return set(contains), set(may)


def test_gluten_is_said_where_it_is_and_never_doubted_beside_its_cereal(facts, profile):
    contains, may = told("200 g flour\n50 g buckwheat flour", facts, profile)
    assert {"gluten", "wheat"} <= contains and not [m for m in may if "gluten" in m or "wheat" in m]
    assert told("200 g rice flour", facts, profile) == (set(), {"gluten (not certified)"})


@pytest.mark.parametrize(
    ("text", "allergen"),
    [
        ("50 g oats", "oats"), ("50 g desiccated coconut", "coconut"), ("50 g lupin flour", "lupin"), ("5 g mustard", "mustard"), ("20 g tahini", "sesame"),
        ("5 g celery salt", "celery"), ("50 g prawns", "crustacean"), ("50 g smoked salmon", "fish"), ("50 g peanut butter", "peanut"),
        ("100 g carrots with celery", "celery"), ("50 g berries or almonds", "tree_nut"),
    ],
)  # fmt: skip
def test_every_allergen_stands_where_it_belongs(text, allergen, facts, profile):
    contains, may = told(text, facts, profile)
    assert any(x.startswith(allergen) for x in contains | may)


def test_what_is_open_may_be_in_it(facts, profile):
    contains, may = told("50 g berries or walnuts\n20 g zorbled oats\n30 g raisins, coated in yogurt", facts, profile)
    assert "milk" in contains and any(m.startswith("tree_nut") for m in may) and any("not read" in m for m in may)


def test_the_plate_is_part_of_the_verdict(batter, facts, profile):
    base = batter(PLAIN + "\n40 g walnuts, to serve\nbutter, for the pan")
    for diets in (("nut_free",), ("dairy_free",), ("vegan", "nut_free")):
        found = adapt(base, Wishes(diets=diets), facts, profile)
        after = found.answers[0].analysis
        assert all(after.plate.diets[d].verdict == "fits" for d in diets) and found.answers[0].changes
    nothing = adapt(batter(PLAIN + "\n40 g pork sausages, to serve"), Wishes(diets=("vegetarian",)), facts, profile).answers[0]
    assert not [x for x in nothing.analysis.batter.lines if x.where == "plate"]
    assert [c for c in nothing.changes if c.target is None and "left off" in c.reason.lower()]


def test_what_goes_with_a_line_leaves_with_it_and_what_is_open_is_chosen(batter, facts, profile):
    found = adapt(
        batter(PLAIN + "\n50 g raisins, coated in yogurt\n60 g blueberries or chopped walnuts"),
        Wishes(diets=("dairy_free", "nut_free")),
        facts,
        profile,
    )
    after = found.answers[0].analysis
    assert all(after.diets[d].verdict == "fits" for d in ("dairy_free", "nut_free"))
    assert not any("milk" in i or "tree_nut" in i for i in (*after.contains, *after.may_contain))
    assert any("not walnut" in c.reason for c in found.answers[0].changes)


def test_an_answer_says_first_what_it_adds(batter, facts, profile):
    answer = adapt(batter(PLAIN), Wishes(diets=("vegan",)), facts, profile).answers[0]
    assert answer.adds and all(answer.cautions[n].startswith(f"Adds {a}") for n, a in enumerate(answer.adds))
    spare = adapt(batter(PLAIN), Wishes(diets=("vegan", "soy_free")), facts, profile).answers[0]
    assert "soy" not in spare.adds


def test_potassium_is_counted_capped_and_cautioned(batter, facts, profile):
    a = analyse(batter(PLAIN + "\n4 g potassium bicarbonate\n2 g cream of tartar"), facts, profile)
    assert a.potassium_mg == pytest.approx(4 * 390.5 + 2 * 207.8, rel=0.001)  # 39.10 of 100.12 and of 188.18 g/mol
    low = adapt(batter(PLAIN, servings=4), Wishes(diets=("low_sodium",)), facts, profile).answers[0]
    assert 0 < low.analysis.potassium_mg / 4 <= facts.craft.limits["potassium_mg"] * 1.05
    assert any("kidney" in c for c in low.cautions)


def test_the_figures_that_keep_from_harm(facts):
    """Literal, so that a change to any of them is noticed by someone."""
    s = facts.safety
    assert (s.centre.celsius, s.cold.celsius, s.hot.celsius, s.reheat.celsius, s.between.hours) == (71, 5, 63, 75, 2)
    assert (s.keep.batter_cold_hours, s.keep.pieces_cold_hours, s.keep.pieces_frozen_hours) == (24, 72, 1008)
    assert facts.heat.crumb.safe_c == 71 and {r.key: r.hours for r in facts.stove.keep} == {
        "batter_cold": 24,
        "pieces_cold": 72,
        "pieces_frozen": 1008,
    }
    assert s.words("cook_through") == "Raw flour and raw egg are not eaten: cook through, 71 °C (160 °F) in the centre."
    assert s.words("hold") == "At 5 °C or under within two hours; warm food is held above 63 °C. The local code decides."
    assert s.words("perishable") == "With egg or milk: a day, no longer."
    assert "a day at most" in s.words("card") and "three days at 5 °C" in s.words("card")


def test_constants_of_the_balances_by_a_worked_sum(batter, facts, profile):
    """One sum each, by hand, so that a slip in a coefficient is seen."""
    from mutabilis.core.balances import lift as l

    a = analyse(batter("100 g flour\n5 g baking soda\n100 g water"), facts, profile)
    soda = 5 * facts.ingredients["baking_soda"].soda_fraction * 1000 / 84.007
    buffer = 100 * (0.02 + 0.02 * facts.ingredients["all_purpose_flour"].ash_g)
    assert a.lift.bicarbonate_mmol == pytest.approx(soda) and a.lift.buffer_meq == pytest.approx(buffer)
    assert a.lift.co2_ml == pytest.approx(24.47 * (buffer + 0.3 * (soda - buffer)))
    assert a.lift.residual_alkali_meq_per_100g == pytest.approx((soda - buffer) / a.batter_g * 100)
    assert (l.EXCESSIVE, l.TOO_ALKALINE, l.PLAINLY_ALKALINE, l.TOO_SOUR) == (350, 2.5, 5.0, 3.0)
    salty = analyse(batter("100 g flour\n100 g water\n2 g salt\n10 g baking powder"), facts, profile)
    salt, powder, flour = (facts.ingredients[k].sodium_mg / 100 for k in ("salt", "baking_powder", "all_purpose_flour"))
    taste = 2.54 / 1000 * (2 * salt + 0.3 * 10 * powder + 100 * flour)
    assert salty.ledger("salt").total == pytest.approx(taste, rel=1e-6)
    butter = analyse(batter("50 g butter\n100 g flour"), facts, profile)
    assert butter.nutrition.sat_fat_g == pytest.approx(
        0.5 * facts.ingredients["butter"].sat_fat_g + facts.ingredients["all_purpose_flour"].sat_fat_g
    )
    sweet = analyse(batter("50 g erythritol\n100 g flour"), facts, profile).nutrition
    assert sweet.polyols_g == pytest.approx(0.5 * facts.ingredients["erythritol"].polyol_g)


def test_each_thing_that_a_line_leaves_open_is_told_by_itself(facts):
    egg = BatterLine(ingredient="egg", grams=50)
    told_of = lambda **what: allergens([egg.model_copy(update=what)], facts)  # noqa: E731
    assert told_of() == (("egg",), ())
    assert told_of(unread=("zorbled",)) == (("egg",), (UNREAD_WORD,)) == told_of(guessed="egg")  # either alone
    assert told_of(ingredient=None) == ((), (UNREAD_LINE,)) and told_of(ingredient=None, where="aside") == ((), ())
    assert told_of(also=("whole_milk",)) == (("egg", "milk"), ()) and told_of(maybe=("whole_milk",)) == (("egg",), ("milk",))
    assert told_of(maybe=("egg",)) == (("egg",), ())  # what is in it is not doubted


def test_every_kind_of_token_says_what_it_says(facts):
    """Rennet is no allergen, and what stands behind it is still told; what only crosses is in nobody's bowl."""
    thing = facts.ingredients["water"].model_copy(
        update={"id": "own_thing", "allergens": ("rennet", "check:rennet", "check:any", "check:milk", "may:soy", "cross:latex", "sesame")}
    )
    mine = facts.with_own([thing])
    contains, may = allergens([BatterLine(ingredient="own_thing", grams=10)], mine)
    assert contains == ("sesame",) and may == ("anything (pack not read)", "milk (check the pack)", "soy")


@pytest.mark.parametrize(
    "token, contains, may",
    [
        ("milk", ("milk",), ()),
        ("wheat", ("wheat", "gluten"), ()),
        ("gluten", (), ("gluten (not certified)",)),
        ("oats", ("oats",), ("gluten (not certified)",)),
        ("may:wheat", (), ("gluten (not certified)", "wheat")),
        ("check:milk", (), ("milk (check the pack)",)),
        ("animal:meat", (), ()),
        ("traces-of:whole_milk", (), ("milk",)),
        ("traces-of:water", (), ()),
        ("traces-of:all_purpose_flour", (), ("gluten (not certified)", "wheat")),
        ("tree_nut:almond", ("tree_nut:almond",), ()),
    ],
)
def test_a_word_heard_in_a_line_is_judged_as_a_thing_of_its_own(token, contains, may, facts, profile):
    line = BatterLine(ingredient="water", grams=10, heard=(token,))
    found = allergens([line], facts)
    assert (found[0], tuple(sorted(found[1]))) == (contains, tuple(sorted(may)))
    thing = said(token, facts)
    assert thing.id == f"said:{token}"
    assert (judge_ingredient(thing, facts.diets["vegan"], profile)[0] == "conflicts") is (token in ("milk", "animal:meat"))
