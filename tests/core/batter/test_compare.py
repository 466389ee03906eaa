"""What changed between two batters, in one line; what one costs; whether a family is one."""

import pytest
from pydantic import ValidationError

from mutabilis.core.analysis.costs import cost
from mutabilis.core.balances.leavening import swap_leavening
from mutabilis.core.balances.lift import gas_ml
from mutabilis.core.batter.compare import changed, pairs
from mutabilis.core.book.versions import BatterSheet, Made, Version, standing_of
from mutabilis.core.errors import CannotBe

BASE = "200 g plain flour\n300 g whole milk\n2 eggs\n35 g butter\n9 g baking powder"


@pytest.mark.parametrize(
    ("after", "words"),
    [
        (BASE, "nothing"),
        (BASE.replace("35 g", "28 g"), "butter 35 → 28 g"),
        (BASE.replace("2 eggs", "14 g ground flaxseed"), "whole egg → ground flaxseed"),
        (BASE + "\n3 g salt", "with table salt"),
        (BASE.replace("\n35 g butter", ""), "without unsalted butter"),
        (BASE.replace("35 g butter", "30 g sunflower oil"), "butter → sunflower oil"),
    ],
)
def test_what_changed_is_told_as_a_cook_would(after, words, batter, facts):
    told = changed(batter(BASE), batter(after), facts)
    assert words in told or words.split(" → ")[-1] in told


def test_another_size_is_a_size_and_more_than_three_are_counted(batter, facts):
    base = batter(BASE)
    assert changed(base, base.scaled(2), facts) == "2 times as much" and changed(base, base.scaled(0.5), facts) == "0.5 times as much"
    assert changed(base, batter(BASE, form="waffle"), facts) == "as a waffle"
    assert changed(base, batter(BASE, rest_min=40), facts).endswith("rests 40 min")
    many = "250 g plain flour\n200 g whole milk\n1 egg\n50 g butter\n4 g baking powder"
    assert changed(base, batter(many), facts).endswith("; 2 more")
    found = pairs(base, batter(many), facts)
    assert len(found) == 5 and all(p.changed for p in found) and found[0].left == 200 and found[0].right == 250


def test_a_cost_is_of_what_goes_in_and_names_what_has_no_price(batter, facts):
    b = batter("200 g plain flour\n300 g whole milk\n100 g water\n9 g baking powder")
    flour = next(line.ingredient for line in b.lines if facts.ingredients[line.ingredient].is_flour)
    found = cost(b, 4, 10, {flour: 1.5, "whole_milk": 1.2}, facts)
    assert found.total == pytest.approx(0.2 * 1.5 + 0.3 * 1.2) and found.per_serving == pytest.approx(found.total / 4)
    assert found.per_piece == pytest.approx(found.total / 10) and len(found.unpriced) == 1 and "powder" in found.unpriced[0]
    assert cost(b, 4, 0, {flour: 1.5}, facts).per_piece == 0 and cost(b, 4, 10, {}, facts) is None
    assert cost(b, 4, 10, {"water": 9.0}, facts) is None  # water is never sold


def test_a_line_with_a_problem_counts_nowhere(batter, facts):
    b = batter("200 g plain flour\n300 g whole milk\n1 handful of moon dust")
    bad = b.model_copy(
        update={"lines": tuple(x.model_copy(update={"problem": "odd"}) if x.ingredient == "whole_milk" else x for x in b.lines)}
    )
    from mutabilis.core.batter.bowl import fill
    from mutabilis.core.batter.odd_amounts import queries

    assert [p.ingredient.id for p in fill(bad, facts).portions] == [
        p.ingredient.id for p in fill(b, facts).portions if p.ingredient.id != "whole_milk"
    ]
    assert cost(bad, 1, 1, {"whole_milk": 5.0}, facts) is None and queries(bad, facts) == {}


@pytest.mark.parametrize(
    ("soda", "acid", "buffer", "ml"),
    [(10, 10, 0, 244.7), (10, 20, 0, 244.7), (10, 0, 10, 244.7), (10, 0, 0, 73.41), (10, 4, 3, 24.47 * (4 + 3 + 0.3 * 3)), (0, 10, 5, 0)],
)
def test_gas_by_what_meets(soda, acid, buffer, ml):
    """24.47 mL a mmol at 25 °C; what meets neither acid nor flour gives three tenths in the heat."""
    assert gas_ml(soda, acid, buffer) == pytest.approx(ml)


def test_a_leavening_is_put_for_another_by_its_gas(facts):
    powder, soda = facts.ingredients["baking_powder"], facts.ingredients["baking_soda"]
    sour = swap_leavening(powder, 9.0, soda, acid_meq=200.0)
    assert sour.gas_ml == pytest.approx(24.47 * 9 * powder.soda_fraction * 1000 / 84.007, rel=1e-4)
    assert sour.grams == pytest.approx(9 * powder.soda_fraction / soda.soda_fraction, rel=1e-4)
    bare = swap_leavening(powder, 9.0, soda)
    assert bare.grams > 3 * sour.grams and bare.gas_ml == pytest.approx(sour.gas_ml)  # no acid: three times as much soda for the same gas
    assert bare == swap_leavening(powder, 9.0, soda, acid_meq=0.0, buffer_meq=0.0)  # nothing else is in the bowl unless it is said
    salt = facts.ingredients["salt"]
    for old, new in ((powder, salt), (salt, powder), (salt, salt)):
        with pytest.raises(CannotBe, match=f"^{salt.name} is no leavening$"):
            swap_leavening(old, 9.0, new)


def version(id_, number, parent=None, **more):
    return Version.model_validate(
        {"id": id_, "batter_id": "b", "name": "Ridge", "number": number, "parent": parent, "batter": {"lines": []}, "diets": [], "note": "", "saved": "2026-11-01T06:00:00Z", **more}
    )  # fmt: skip


def sheet(*versions, made=()):
    return BatterSheet(id="b", name="Ridge", form="griddle", archived=None, versions=versions, made=tuple(made))


def test_a_family_is_told_from_the_first():
    family = sheet(version("c", 3, "a"), version("a", 1), version("b", 2, "a"), version("d", 4, "b"))
    assert [v.id for v in family.from_the_first()] == ["a", "b", "d", "c"]


@pytest.mark.parametrize(
    ("versions", "made"),
    [
        ([version("a", 1), version("a", 2)], []),
        ([version("a", 1), version("b", 1)], []),
        ([version("a", 1, "gone")], []),
        ([version("a", 1, "b"), version("b", 2, "a")], []),
        ([version("a", 1)], [Made(id="m", version_id="x", at="2026-11-01T06:00:00Z", good=True, note="")]),
    ],
)
def test_what_is_no_family_is_refused(versions, made):
    with pytest.raises(ValidationError):
        sheet(*versions, made=made)


@pytest.mark.parametrize(
    ("made", "standing"), [([], "untested"), ([False], "made"), ([True], "made"), ([True, True], "proven"), ([False, True, True], "proven")]
)
def test_good_twice_is_proven(made, standing):
    assert standing_of(made) == standing
