"""Sweetness, fat, salt and browning (batter-science, section 4)."""

from ..batter.bowl import Bowl
from .entry import Band, Ledger, contributions, spread_of


def sweetness_ledger(bowl: Bowl) -> Ledger:
    """Sweetness as grams of sucrose. A change within about 15 % is not noticed."""
    total = bowl.total("sweet")
    doubt = 2 * spread_of(bowl, lambda p: p.per.sweet)
    per, doubt = bowl.per_100g(total), bowl.per_100g(doubt)
    return Ledger(
        key="sweetness", label="Sweetness", unit="g sucrose", total=total, per_100g=per, mark=per, mark_unit="g/100 g", low=max(0.0, per - doubt), high=per + doubt, band=None, verdict="fits",
        reason="As grams of sugar; a change within about 15 % is not noticed.", contributions=contributions(bowl, lambda p: p.grams * p.per.sweet, "m · sweetness against sucrose"),
    )  # fmt: skip


def fat_ledger(bowl: Bowl) -> Ledger:
    """Fat [g]; its mark is per 100 g batter, its reason per 100 g flour."""
    total, flour = bowl.total("fat"), bowl.total("flour")
    per, doubt = bowl.per_100g(total), bowl.per_100g(2 * spread_of(bowl, lambda p: p.per.fat))
    reason = (
        f"{100 * total / flour:.0f} g to 100 g flour, {bowl.total('saturated'):.0f} g of it saturated."
        if flour
        else "No flour to compare with."
    )
    return Ledger(
        key="fat", label="Fat", unit="g", total=total, per_100g=per, mark=per, mark_unit="g/100 g", low=max(0.0, per - doubt), high=per + doubt, band=None, verdict="fits", reason=reason,
        contributions=contributions(bowl, lambda p: p.grams * p.per.fat, "m · fat share"),
    )  # fmt: skip


def salt_ledger(bowl: Bowl) -> Ledger:
    """Salt as it is tasted [g]: salt and three tenths of what the leavening would be as salt."""
    total = bowl.total("salt_taste")
    per, doubt = bowl.per_100g(total), bowl.per_100g(2 * spread_of(bowl, lambda p: p.per.salt_taste))
    band = bowl.form.salt
    verdict = "bland" if per < band[0] else "salty" if per > band[1] else "fits"
    reason = {
        "bland": "Little salt: it will taste flat.",
        "salty": "More salt than a breakfast wants.",
        "fits": "Salted as usual.",
    }[verdict]
    return Ledger(
        key="salt", label="Salt", unit="g as tasted", total=total, per_100g=per, mark=per, mark_unit="g/100 g", low=max(0.0, per - doubt), high=per + doubt, band=Band(*band), verdict=verdict, reason=reason,
        contributions=contributions(bowl, lambda p: p.grams * p.per.salt_taste, "sodium · 2.54, of leavening 0.3 of it"),
    )  # fmt: skip


def browning_ledger(bowl: Bowl, residual_alkali: float, excess_acid: float) -> Ledger:
    """Browning index: reducing sugars and protein raise it, so does alkali left over [meq/100 g]; acid lowers it.

    A relative figure (a judgement): 15 % for each meq of alkali, 4 % for each meq of acid, per 100 g batter.
    """
    sugars_and_protein = bowl.total("brown")
    factor = (1 + 0.15 * residual_alkali) * max(0.3, 1 - 0.04 * excess_acid)
    per = bowl.per_100g(sugars_and_protein * factor)
    return Ledger(
        key="browning", label="Browning", unit="index", total=sugars_and_protein * factor, per_100g=per, mark=per, mark_unit="index", low=0.85 * per, high=1.15 * per, band=None, verdict="fits",
        reason="A relative figure: compare it with the base, not with another batter.",
        contributions=contributions(bowl, lambda p: p.grams * p.per.brown * factor, "m · browning · (1 + 0.15·alkali) · (1 − 0.04·acid)"),
    )  # fmt: skip
