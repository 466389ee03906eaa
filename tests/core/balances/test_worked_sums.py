"""One bowl worked out by hand: each balance from the rows alone, with the constants typed once more. A wrong constant is noticed here.

The batter: 200 g flour, 280 g buttermilk, 50 g egg, 30 g butter, 20 g sugar, 3 g salt, 4 g baking powder, 2 g soda, at rest 10 minutes.
"""

import math

import pytest

from mutabilis.core.balances.holdback import hold_back, measured_sd
from mutabilis.core.batter.bowl import fill

TEXT = "200 g flour\n280 g buttermilk\n50 g egg\n30 g butter\n20 g sugar\n3 g salt\n4 g baking powder\n2 g baking soda"
GRAMS = {
    "all_purpose_flour": 200, "buttermilk": 280, "egg": 50, "butter": 30, "sugar": 20, "salt": 3, "baking_powder": 4, "baking_soda": 2,
}  # fmt: skip
BATTER = sum(GRAMS.values())


@pytest.fixture(scope="module")
def rows(facts):
    return {k: facts.ingredients[k] for k in GRAMS}


@pytest.fixture(scope="module")
def a(facts, profile):
    from mutabilis.core.analysis.analysis import analyse
    from mutabilis.core.batter.batter import Batter
    from mutabilis.core.reading.reading import read_lines

    return analyse(Batter(lines=read_lines(TEXT, facts, profile), servings=4.0), facts, profile)


def each(rows, what):
    return sum(g * what(rows[k]) for k, g in GRAMS.items())


def drunk(i, minutes=10.0):
    """Water bound by a gram after a rest [g]: a − (1 − exp(−2.303 t/t90))."""
    return i.absorption_g_per_g * (1 - math.exp(-2.303 * minutes / i.absorption_minutes)) if i.absorption_g_per_g else 0.0


def volumes(i):
    """Swollen and free volume of a gram [mL]: dry matter 1.45 g/mL, what dissolves 1.55, half of the fat at 0.92."""
    water, fat = i.water_g / 100, i.fat_g / 100
    fat_ml = 0.5 * fat / 0.92
    if i.absorption_g_per_g:
        return (1 - fat - water) / 1.45 + water + drunk(i), fat_ml - drunk(i)
    return 0.0, water + (1 - fat - water) / 1.55 + fat_ml


def test_the_bowl_is_what_was_written(a):
    assert {x.ingredient: x.grams for x in a.batter.lines} == GRAMS and a.batter_g == BATTER


def test_flow(a, rows):
    swollen, free = each(rows, lambda i: volumes(i)[0]), each(rows, lambda i: volumes(i)[1])
    phi = swollen / (swollen + free)
    wet = sum(g for k, g in GRAMS.items() if rows[k].water_g >= 40)
    theta = sum(g * rows[k].thickening for k, g in GRAMS.items() if rows[k].water_g >= 40) / wet
    tau = (3.0 * math.exp(12 * (phi - 0.48)) + 0.5) * math.exp(3 * theta) - 0.5
    assert (a.water.solids_fraction, a.water.thickening, a.water.yield_stress_pa) == pytest.approx((phi, theta, tau), rel=1e-9)
    radius, volume = a.water.spread_cm / 200, 60e-6
    pull = 225 * 1050 * 9.81 * volume**2 / (128 * math.pi**2 * radius**5)
    assert pull - 0.005 * radius**2 / volume == pytest.approx(tau, rel=1e-6)
    dry = [k for k in GRAMS if rows[k].is_flour]
    assert a.water.hydration_pct == pytest.approx(100 * sum(g * rows[k].water_g / 100 for k, g in GRAMS.items() if k not in dry) / 200)


def test_gas_acid_and_alkali(a, rows):
    soda = 1000 / 84.007
    bicarbonate = 2 * 1.0 * soda + 4 * rows["baking_powder"].soda_fraction * soda
    acid = 4 * rows["baking_powder"].soda_fraction * soda + 280 * rows["buttermilk"].acid_meq_per_100g / 100
    acid += sum(g * rows[k].acid_meq_per_100g / 100 for k, g in GRAMS.items() if k != "buttermilk")
    buffer = 200 * min(0.08, 0.02 + 0.02 * rows["all_purpose_flour"].ash_g)
    met = min(acid, bicarbonate)
    buffered = min(bicarbonate - met, buffer)
    gas = 24.47 * (met + buffered + 0.3 * (bicarbonate - met - buffered))
    assert a.lift.co2_ml == pytest.approx(gas, rel=1e-9)
    assert a.lift.residual_alkali_meq_per_100g == pytest.approx(100 * (bicarbonate - met - buffered) / BATTER, abs=1e-9)
    assert a.lift.excess_acid_meq_per_100g == pytest.approx(100 * max(0.0, acid - bicarbonate) / BATTER, abs=1e-9)
    half, early = rows["baking_powder"].half_life_min, rows["baking_powder"].early_fraction
    share = 4 * rows["baking_powder"].soda_fraction * soda / bicarbonate
    powder = early * 2 ** (-10 / half) + 1 - early
    bare = rows["baking_soda"].early_fraction * 2 ** (-10 / rows["baking_soda"].half_life_min) + 1 - rows["baking_soda"].early_fraction
    assert a.lift.co2_left_ml == pytest.approx(gas * (share * powder + (1 - share) * bare), rel=1e-9)


def test_set(a, rows):
    flour = rows["all_purpose_flour"]
    egg, gluten = 50 * rows["egg"].egg_equivalents_per_g, 200 * 0.0095 * flour.gluten_strength
    rest = sum(g * rows[k].egg_equivalents_per_g for k, g in GRAMS.items() if k != "egg")
    assert a.setting.egg_equivalents == pytest.approx(egg + gluten + rest, rel=1e-9)
    assert a.setting.eggs_per_40g_flour == pytest.approx(egg * 40 / 200, rel=1e-9)


def test_taste(a, rows):
    assert a.ledger("sweetness").total == pytest.approx(each(rows, lambda i: i.sweetness))
    assert a.ledger("fat").total == pytest.approx(each(rows, lambda i: i.fat_g / 100))
    salt = each(rows, lambda i: i.sodium_mg / 100_000 * 2.54 * (0.3 if i.group == "leavener" else 1.0))
    assert a.ledger("salt").total == pytest.approx(salt)
    alkali, acid = a.lift.residual_alkali_meq_per_100g, a.lift.excess_acid_meq_per_100g
    brown = each(rows, lambda i: i.browning) * (1 + 0.15 * alkali) * max(0.3, 1 - 0.04 * acid)
    assert a.ledger("browning").total == pytest.approx(brown)


def test_nutrition(a, rows):
    def kcal(i):
        starch = max(0.0, i.carb_g - i.fibre_g - i.polyol_g - i.allulose_g)
        return (
            4 * i.protein_g
            + 9 * i.fat_g
            + 4 * starch
            + 2 * i.fibre_g
            + 2.4 * i.polyol_g
            + 0.4 * i.allulose_g
            + 7 * i.alcohol_g
            + 3 * i.organic_acid_g
        ) / 100

    assert a.nutrition.kcal == pytest.approx(each(rows, kcal))
    assert a.nutrition.protein_g == pytest.approx(each(rows, lambda i: i.protein_g / 100))
    assert a.nutrition.net_carb_g == pytest.approx(each(rows, lambda i: (i.carb_g - i.fibre_g - i.polyol_g - i.allulose_g) / 100))
    assert a.sodium_mg == pytest.approx(each(rows, lambda i: i.sodium_mg / 100))


def test_yield(a, rows):
    early = sum(g * rows[k].soda_fraction * rows[k].early_fraction for k, g in GRAMS.items()) / sum(
        g * rows[k].soda_fraction for k, g in GRAMS.items()
    )
    density = BATTER / (BATTER / 1.05 + 0.3 * early * a.lift.co2_ml)
    pieces = BATTER * (1 - 0.035) / (60 * density)
    assert a.yields.portion_g == pytest.approx(60 * density) and a.yields.pieces == pytest.approx(pieces)
    poured = 60 / (math.pi * (a.water.spread_cm / 2) ** 2)
    assert a.yields.thickness_cm == pytest.approx(poured * 1050 / 700)
    low, high = 0.10, 0.15
    assert (a.yields.cooked_low_g, a.yields.cooked_high_g) == pytest.approx((60 * density * (1 - high), 60 * density * (1 - low)))


def test_hold_back(a, facts):
    """19 of 20, one-sided: 1.645 standard deviations; by cups a flour is 5 % off, a liquid 1.5 %, by scale half a gram."""
    flour, milk = facts.ingredients["all_purpose_flour"], facts.ingredients["buttermilk"]
    assert (measured_sd(flour, 200, "cups"), measured_sd(milk, 200, "cups")) == (10.0, 3.0)
    assert (measured_sd(flour, 200, "scale"), measured_sd(flour, 4, "scale")) == (0.5, 0.2)
    bowl = fill(a.batter, facts)
    by_scale, by_cups = hold_back(bowl, "scale"), hold_back(bowl, "cups")
    assert by_scale.plan_g - by_scale.pour_g == pytest.approx(by_scale.enough_g - by_scale.plan_g)
    assert by_cups.hold_g > by_scale.hold_g > 0 and by_scale.ingredient == "buttermilk"
