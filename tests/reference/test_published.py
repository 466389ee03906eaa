"""Published relations and facts, each with its source, against what the core computes."""

import math

import pytest

from mutabilis.core.adapt.choices import amount_for
from mutabilis.core.balances.leavening import swap_leavening
from mutabilis.core.balances.lift import gas_ml
from mutabilis.core.batter.flow import spread_from_stress, stress_from_spread
from mutabilis.core.food.coefficients import energy_kcal
from mutabilis.core.food.kitchen_measures import measure
from tests.conftest import BUTTERMILK

SODA = 84.007  # g/mol, IUPAC atomic weights


@pytest.mark.parametrize(
    ("acid", "grams_for_one_g_soda"),
    [
        # NaHCO3 meets one equivalent: neutralising value = 100·84.007/(g acid per eq); Matz, Bakery Technology; molar masses IUPAC.
        ("cream_of_tartar", 188.18 / SODA),  # KHC4H4O6, one H+
        ("citric_acid", 192.12 / 3 / SODA),  # three H+
        ("white_vinegar", 60.05 / 0.05 / SODA),  # acetic acid, 5 % by weight
    ],
)
def test_stoichiometry_of_soda_with_each_acid(acid, grams_for_one_g_soda, facts):
    meq = facts.ingredients[acid].acid_meq_per_100g / 100 * grams_for_one_g_soda
    assert meq == pytest.approx(1000 / SODA, rel=0.01)
    assert gas_ml(1000 / SODA, meq, 0) == pytest.approx(24.47 * 1000 / SODA, rel=0.01)


def test_a_gram_of_soda_gives_291_ml_when_met():
    """Ideal gas at 25 °C and 1 atm: 24.47 L/mol (CRC Handbook)."""
    assert gas_ml(1000 / SODA, 1e6, 0) == pytest.approx(0.08206 * 298.15 / SODA * 1000, rel=0.001)


@pytest.mark.parametrize(
    "powder",
    [
        "baking_powder",
        "baking_powder_gf",
        "baking_powder_aluminium_free",
        "baking_powder_pyrophosphate",
        "baking_powder_tartar",
    ],
)
def test_powder_yields_the_legal_minimum_of_gas(powder, facts):
    """Baking powder yields at least 12 % of its weight as available CO2 (US FDA definition; 44.01 g/mol)."""
    soda = facts.ingredients[powder].soda_fraction
    assert soda * 44.01 / SODA >= 0.12


def test_buttermilk_meets_about_half_a_teaspoon_of_soda_a_cup(analysed):
    """Kitchen rule: half a tea spoon of soda to a cup of buttermilk (titratable acidity about 0.85 % lactic, 90.08 g/mol)."""
    lactic = 0.0085 * 1000 / 90.08 * 245
    x = analysed("1 cup buttermilk\n1/2 tsp bicarb").lift
    assert x.acid_meq == pytest.approx(lactic, rel=0.05)
    assert x.residual_alkali_meq_per_100g + x.excess_acid_meq_per_100g < 2.5


def test_powder_for_soda_is_never_spoon_for_spoon(facts):
    """About three of powder for one of soda (0.28 bicarbonate in powder); the reverse leaves alkali where no acid waits."""
    soda, powder = facts.ingredients["baking_soda"], facts.ingredients["baking_powder"]
    met = swap_leavening(soda, 4.6, powder, acid_meq=60)
    assert met.grams == pytest.approx(4.6 / 0.28, rel=0.001)
    assert met.spoon_for_spoon_ml == pytest.approx(0.28 * met.gas_ml, rel=0.001)
    back = swap_leavening(powder, 4.6, soda, acid_meq=0)
    assert back.grams > 4.6 * 0.28 * 2 and back.acid_change_meq < -30
    with pytest.raises(ValueError, match="no leavening"):
        swap_leavening(facts.ingredients["salt"], 1, soda)


def test_butter_is_four_fifths_fat_and_oil_needs_its_water(facts):
    """US standard of identity: butter has at least 80 % milk fat; about 16 to 18 % is water."""
    butter = facts.ingredients["butter"]
    assert 80 <= butter.fat_g <= 82 and 16 <= butter.water_g <= 18.5
    assert facts.ingredients["rapeseed_oil"].fat_g * 0.81 == pytest.approx(butter.fat_g, rel=0.01)


def test_honey_for_sugar(analysed):
    """Three quarters of a cup of honey for a cup of sugar, and a fifth of a cup less liquid (extension-service rule)."""
    sugar, honey = analysed("1 cup sugar"), analysed("3/4 cup honey")
    assert honey.ledger("sweetness").total == pytest.approx(sugar.ledger("sweetness").total, rel=0.15)
    assert honey.water.total_g == pytest.approx(0.2 * 237, rel=0.2)


def test_an_egg(analysed):
    """A large shelled egg is 50 g: 38 g water, 6.3 g protein, 4.8 g fat, 70 kcal (US standard reference, 01123)."""
    a = analysed("1 egg")
    assert (a.water.total_g, a.nutrition.protein_g, a.nutrition.fat_g) == pytest.approx((38.1, 6.3, 4.75), rel=0.01)
    assert a.nutrition.kcal == pytest.approx(70, rel=0.04)


@pytest.mark.parametrize(
    ("what", "grams"),
    # Weights of a US cup or spoon as printed by flour mills and the US household-weights file.
    [
        ("1 cup plain flour", 125),
        ("1 cup sugar", 200),
        ("1 cup milk", 244),
        ("1 cup butter", 227),
        ("1 tbsp honey", 21),
        ("1 tsp salt", 6),
        ("1 tsp baking powder", 4.6),
        ("1 cup oat flour", 104),
        ("1 tbsp oil", 13.8),
    ],
)
def test_kitchen_weights(what, grams, analysed):
    assert analysed(what).batter_g == pytest.approx(grams, rel=0.04)


def test_weights_and_measures_run_both_ways(facts, profile, analysed):
    for text, id_ in (
        ("1 1/2 cups", "all_purpose_flour"),
        ("3 1/2 tsp", "baking_powder"),
        ("2 tbsp", "sugar"),
        ("3/4 cup", "soy_drink"),
    ):
        i = facts.ingredients[id_]
        assert measure(i, analysed(f"{text} {i.name.split(' (')[0]}").batter_g, profile) == text


def test_the_spread_relation_against_its_limits():
    """Roussel and Coussot 2005: without the edge term τ = 225ρgV²/(128π²R⁵); the slump of a stiff paste has R⁵ ∝ V²/τ."""
    v, r = 60e-6, 0.055
    plain = 225 * 1050 * 9.81 * v**2 / (128 * math.pi**2 * r**5)
    assert stress_from_spread(11) == pytest.approx(plain - 0.005 * r**2 / v, rel=1e-9)
    assert spread_from_stress(50, 120) / spread_from_stress(50, 60) == pytest.approx(2**0.4, rel=0.02)


def test_energy_of_foods(facts):
    """Atwater's factors against the tables' own energy, food by food, within 10 % or 12 kcal."""
    off = [i.id for i in facts.ingredients.values() if abs(energy_kcal(i) - i.kcal) > max(12, 0.1 * i.kcal)]
    assert not off


def test_erythritol_and_allulose_by_law(facts):
    """EU 1169/2011: erythritol 0, other polyols 2.4 kcal/g; US FDA 2020: allulose 0.4 kcal/g; erythritol 0.2 in the US."""
    kcal = {k: energy_kcal(facts.ingredients[k]) / 100 for k in ("erythritol", "xylitol", "allulose")}
    assert kcal == pytest.approx({"erythritol": 0.2, "xylitol": 2.4, "allulose": 0.4})


def test_sodium_of_salt_and_soda(facts):
    """NaCl is 39.34 % sodium, NaHCO3 27.37 % (IUPAC atomic weights)."""
    assert facts.ingredients["salt"].sodium_mg == pytest.approx(0.3934e5 * 0.998, rel=0.02)
    assert facts.ingredients["baking_soda"].sodium_mg == pytest.approx(0.2737e5, rel=0.01)


def test_an_overdose_of_soda_is_heard(analysed):
    """Twice the soda of a buttermilk batter: soapy, and the amount of the mend takes it away."""
    a = analysed(BUTTERMILK.replace("1 tsp bicarb", "3 tsp bicarb"))
    assert a.ledger("acid").verdict == "soapy"
    meq = a.lift.residual_alkali_meq_per_100g * a.batter_g / 100
    mended = analysed(BUTTERMILK.replace("1 tsp bicarb", f"{3 * 4.6 - meq * SODA / 1000:.2f} g bicarb"))
    assert mended.lift.residual_alkali_meq_per_100g < 0.05


@pytest.mark.parametrize(("drink", "low_mpas", "high_mpas"), [("oat_drink", 4.0, 10.0), ("soy_drink", 2.5, 8.0), ("skim_milk", 1.5, 2.0)])
def test_a_drink_thickens_by_its_viscosity(drink, low_mpas, high_mpas, facts):
    """Between milk (2 mPa·s) and stirred buttermilk (80) the scale runs with the logarithm; a row lies within what is published, within
    a fiftieth of the scale."""
    milk, buttermilk = (facts.ingredients[k].thickening for k in ("whole_milk", "buttermilk"))

    def at(mpas):
        return milk + (buttermilk - milk) * math.log(mpas / 2) / math.log(80 / 2)

    assert at(low_mpas) - 0.02 <= facts.ingredients[drink].thickening <= at(high_mpas) + 0.02


def test_fresh_yeast_is_a_third_as_strong_as_dried(facts):
    dried, fresh = facts.ingredients["dried_yeast"], facts.ingredients["fresh_yeast"]
    assert amount_for(fresh, dried, 21, 10, facts.craft.equal) == (7.0, "its work")
    assert amount_for(dried, fresh, 7, 10, facts.craft.equal)[0] == pytest.approx(21)
    assert dried.tsp_g == 4 and dried.unit_g == 7
