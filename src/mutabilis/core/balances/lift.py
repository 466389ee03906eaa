"""Lift: gas, acid, alkali, air and time (batter-science, section 2)."""

import math
from dataclasses import dataclass

from ..batter.bowl import Bowl
from ..roots import boundary
from .entry import Band, Contribution, Ledger, contributions, spread_of

DAY_MIN = 1440.0

ML_PER_MMOL = 24.47  # molar volume of a gas at 25 °C and 1 atm [L/mol]
HEAT_SHARE = 0.3  # what meets neither acid nor flour gives half its gas in the heat, of which 0.6 counts
EXCESSIVE = 350.0
NOT_RECKONED = "not reckoned"
STEAM = "steam"
FLAT = "flat, as wished"
STEAM_EGG = 0.6  # g of egg to a gram of flour in a hot oven, from which steam alone lifts a batter that has nothing else (kitchen practice)
YEASTS = ("dried_yeast", "fresh_yeast")
FOAM_ML_PER_G, FOLDED, FOAM_HALF_MIN = 5.0, 0.5, 25.0
TOO_ALKALINE, PLAINLY_ALKALINE, TOO_SOUR = 2.5, 5.0, 3.0  # meq per 100 g


@dataclass(frozen=True, slots=True, kw_only=True)
class Lift:
    """The lift ledger: mmol and meq of what meets, mL of gas at 25 °C, meq left over per 100 g batter."""

    bicarbonate_mmol: float
    acid_meq: float
    buffer_meq: float
    co2_ml: float
    co2_ml_per_100g: float
    co2_left_ml: float
    residual_alkali_meq_per_100g: float
    excess_acid_meq_per_100g: float
    air_ml: float
    latest_min: float | None
    verdict: str
    contributions: tuple[Contribution, ...]


def gas_ml(bicarbonate_mmol: float, acid_meq: float, buffer_meq: float) -> float:
    """CO2 [mL at 25 °C]: 24.47·(reacted + buffered + 0.3·the rest). NaHCO3 + HX → NaX + H2O + CO2.

    >>> round(gas_ml(1000 / 84.007, 100, 0), 1)
    291.3
    """
    reacted = min(acid_meq, bicarbonate_mmol)
    unmet = bicarbonate_mmol - reacted
    buffered = min(unmet, buffer_meq)
    return ML_PER_MMOL * (reacted + buffered + HEAT_SHARE * (unmet - buffered))


def lift(bowl: Bowl) -> Lift:
    """The ledger of lift for a bowl; `co2_ml` is what the leavening can give, `co2_left_ml` what the rest has left of it."""
    soda, acid, buffer = bowl.total("soda"), bowl.total("acid"), bowl.total("buffer")
    reacted = min(acid, soda)
    unmet = soda - reacted
    buffered = min(unmet, buffer)
    gas = gas_ml(soda, acid, buffer)
    air_fresh = FOAM_ML_PER_G * FOLDED * sum(p.foam_g for p in bowl.portions)
    air = air_fresh * 2 ** (-bowl.age_min / FOAM_HALF_MIN)
    per = bowl.per_100g(gas)
    share = gas / soda if soda > 0 else 0.0
    return Lift(
        bicarbonate_mmol=soda, acid_meq=acid, buffer_meq=buffer,
        co2_ml=gas, co2_ml_per_100g=per, co2_left_ml=gas * left_after(bowl, bowl.rest_min),
        residual_alkali_meq_per_100g=bowl.per_100g(unmet - buffered), excess_acid_meq_per_100g=bowl.per_100g(max(0.0, acid - soda)),
        air_ml=air, latest_min=latest_minute(bowl), verdict=_verdict(bowl, per + bowl.per_100g(air)),
        contributions=contributions(bowl, lambda p: p.grams * p.per.soda * share, "24.47 mL/mmol · bicarbonate that meets acid, flour or heat", "gas")
        + contributions(bowl, lambda p: p.grams * p.per.soda, "m · bicarbonate fraction · 1000/84.007", "alkali")
        + contributions(bowl, lambda p: p.grams * p.per.acid, "m · acid per 100 g, and the acid inside the powder", "acid")
        + contributions(bowl, lambda p: p.grams * p.per.buffer, "min(0.08, 0.02 + 0.02 · ash %) per g of flour", "buffer"),
    )  # fmt: skip


def yeasted(bowl: Bowl) -> bool:
    """Whether yeast lifts it: its gas comes with hours and warmth, and is not reckoned."""
    return any(p.ingredient.id in YEASTS for p in bowl.portions)


def steamed(bowl: Bowl) -> bool:
    """Whether steam alone lifts it: an oven batter rich in egg, without leavening or foam, climbs on its own water."""
    if bowl.form.key != "tray" or yeasted(bowl) or bowl.total("soda") > 0 or any(p.foam_g for p in bowl.portions):
        return False
    return sum(p.grams for p in bowl.portions if p.ingredient.group == "egg") >= STEAM_EGG * bowl.total("flour") > 0


def _verdict(bowl: Bowl, per_100g: float) -> str:
    if yeasted(bowl):
        return NOT_RECKONED
    if steamed(bowl):
        return STEAM
    said = verdict_of(per_100g, bowl.form.lift)
    return FLAT if bowl.flat and said in ("none", "low") else said


def left_after(bowl: Bowl, minutes: float) -> float:
    """Share of the gas still to come or held after `minutes` [min]: the early fraction leaves with its half-life."""
    soda = bowl.total("soda")
    if soda <= 0:
        return 1.0
    kept = 0.0
    for p in bowl.portions:
        if p.per.soda > 0:
            early, half = p.ingredient.early_fraction, p.ingredient.half_life_min
            kept += p.grams * p.per.soda * (early * 2 ** (-minutes * bowl.pace / half) + 1 - early)
    return kept / soda


def latest_minute(bowl: Bowl, keep: float = 0.85) -> float | None:
    """The last minute [min] at which the batter still has `keep` of its lift; None where it never falls so low."""
    sources = [(p.grams * p.per.soda, p.ingredient.early_fraction, p.ingredient.half_life_min) for p in bowl.portions if p.per.soda > 0]
    soda = sum(amount for amount, _, _ in sources)
    if soda <= 0 or sum(amount * (1 - early) for amount, early, _ in sources) >= keep * soda:
        return None

    def lasts(minutes: float) -> bool:
        left = sum(amount * (early * 2 ** (-minutes * bowl.pace / half) + 1 - early) for amount, early, half in sources)
        return left > keep * soda

    return boundary(lasts, 0.0, DAY_MIN, 24)[0]  # to a ten-thousandth of a minute


def verdict_of(per_100g: float, band: tuple[float, float]) -> str:
    """none, low, fits, high or excessive, for mL per 100 g against the band of the form."""
    if per_100g > EXCESSIVE:
        return "excessive"
    if per_100g > band[1]:
        return "high"
    if per_100g >= band[0]:
        return "fits"
    return "none" if per_100g < 3 else "low"


def lift_ledger(bowl: Bowl, x: Lift) -> Ledger:
    """Lift as a track: mL of gas and air per 100 g batter."""
    mark = x.co2_ml_per_100g + bowl.per_100g(x.air_ml)
    doubt = 2 * bowl.per_100g(spread_of(bowl, lambda p: ML_PER_MMOL * p.per.soda))
    words = {
        NOT_RECKONED: "Yeast lifts it: its gas is not reckoned here. Let it double before you cook.",
        STEAM: "Steam lifts it: a hot tin, a hot oven, and the door kept shut.",
        FLAT: "Meant to be flat.",
        "none": "Nothing lifts this batter.",
        "low": f"Less than the {bowl.form.lift[0]:g} mL that a {bowl.form.label} wants.",
        "fits": f"Within what a {bowl.form.label} wants.",
        "high": f"More than the {bowl.form.lift[1]:g} mL a {bowl.form.label} can use.",
        "excessive": "Coarse, bitter and salty: far too much leavening.",
    }
    return Ledger(
        key="lift", label="Lift", unit="mL CO2", total=x.co2_ml, per_100g=x.co2_ml_per_100g, mark=mark, mark_unit="mL/100 g", low=max(0.0, mark - doubt), high=mark + doubt,
        band=Band(*bowl.form.lift), verdict=x.verdict, reason=words[x.verdict], contributions=tuple(c for c in x.contributions if c.part == "gas"),
    )  # fmt: skip


def acid_ledger(bowl: Bowl, x: Lift) -> Ledger:
    """Acid against alkali as a track: what is left over, acid below nought, alkali above, in meq per 100 g batter."""
    left = x.residual_alkali_meq_per_100g - x.excess_acid_meq_per_100g
    if left > PLAINLY_ALKALINE:
        verdict, reason = "soapy", "Soda finds no acid: soapy and brown."
    elif left > TOO_ALKALINE:
        verdict, reason = "alkaline", "A little soda finds no acid: it browns early and may taste of soap."
    elif left < -TOO_SOUR:
        verdict, reason = "sour", "Acid is left over: tang and a paler crust."
    else:
        verdict, reason = "fits", "Acid and soda nearly cancel."
    total = max(0.0, x.bicarbonate_mmol - x.acid_meq - x.buffer_meq) - max(0.0, x.acid_meq - x.bicarbonate_mmol)
    doubt = 2 * bowl.per_100g(math.hypot(spread_of(bowl, lambda p: p.per.soda), spread_of(bowl, lambda p: p.per.acid)))
    return Ledger(
        key="acid", label="Acid and alkali", unit="meq", total=total, per_100g=left, mark=left, mark_unit="meq/100 g", low=left - doubt, high=left + doubt, band=Band(-TOO_SOUR, TOO_ALKALINE),
        verdict=verdict, reason=reason, contributions=tuple(c for c in x.contributions if c.part != "gas"),
    )  # fmt: skip
