"""How much a line weighs: from its measures, the ingredient's own cup, spoon and piece, and the kitchen's sizes; with its bounds and
how sure it is."""

import re
from dataclasses import dataclass
from typing import Literal

from ..batter.batter import RANGE, BatterLine
from ..food.ingredients import Confidence, Ingredient, least
from ..food.naming import Named
from ..measures.amount import LARGEST_G, Amount, Measure
from ..measures.profile import Profile
from .facts import ReadingFacts

_GROUND = re.compile(r"\b(ground|blended|blitzed|milled|whizzed|powdered|pulsed)\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Said:
    """A line as written, its amount, what it names, and how that is said to be."""

    text: str
    amount: Amount
    named: Named
    states: frozenset[str] = frozenset()


def weigh(said: Said, ingredient: Ingredient, facts: ReadingFacts, profile: Profile) -> BatterLine:
    """The line with its weight as that ingredient; with a problem where no weight can be told."""
    text, amount, named = said.text, said.amount, said.named
    base = {"text": text, "ingredient": ingredient.id, "note": named.note}
    if amount.grams:
        low, high = amount.grams
        if high > low:
            base["note"] = "; ".join(x for x in (named.note, RANGE) if x)
        return _within(
            BatterLine(
                **base,
                grams=cap((low + high) / 2),
                low=cap(max(0.0, low - 1)),
                high=cap(high + 1),
                confidence=named.confidence,
            ),
            high,
        )
    if not amount.measures:
        return _no_amount(base, amount, ingredient)
    low = high = grams = most = 0.0
    confidence: Confidence = named.confidence
    notes = [named.note] if named.note else []
    if any(m.high > m.low for m in amount.measures):
        notes.append(RANGE)
    for measure in amount.measures:
        got = _grams(measure, ingredient, said.states, facts, profile)
        if got is None:
            return BatterLine(
                **base,
                problem=f"how much is one {measure.unit.key if measure.unit else 'piece'} of {ingredient.name}?"[:200],
                confidence="low",
            )
        one, spread, sure, note = got
        low += one * measure.low * (1 - spread)
        high += one * measure.high * (1 + spread)
        most += one * measure.high
        grams += one * (measure.low + measure.high) / 2
        confidence = least(confidence, sure)
        if note:
            notes.append(note)
    line = BatterLine(
        text=text,
        ingredient=ingredient.id,
        grams=cap(grams),
        low=cap(max(0, low)),
        high=cap(high),
        confidence=confidence,
        note="; ".join(dict.fromkeys(notes))[:500],
    )
    return _within(line, most)


def _grams(
    measure: Measure, ingredient: Ingredient, states: frozenset[str], facts: ReadingFacts, profile: Profile
) -> tuple[float, float, Confidence, str] | None:
    """Grams of one unit, its relative spread, how sure, and a word to the cook."""
    unit = measure.unit
    heap, heap_spread = (measure.heap.times, measure.heap.spread) if measure.heap else (1.0, 0.0)
    if unit is None:
        return _piece(measure, ingredient, facts, profile)
    if unit.g is not None and unit.kind == "mass":
        return unit.g, 0.01, "high", ""
    if unit.kind == "piece":
        if ingredient.unit_name == unit.key and ingredient.unit_g:
            return (
                ingredient.unit_g * heap,
                max(unit.spread, heap_spread),
                "medium",
                f"a {unit.key} of it taken as {ingredient.unit_g:g} g",
            )
        if unit.ml is not None:
            return unit.ml * ingredient.grams_per_ml()[0], unit.spread, "low", f"a {unit.key} taken as {unit.ml:g} mL"
        if unit.g is None:
            return None
        return (
            unit.g * heap,
            max(unit.spread, heap_spread),
            "low" if unit.guess or unit.spread > 0.2 else "medium",
            f"a {unit.key} taken as {unit.g:g} g",
        )
    ml = unit.millilitres(profile)
    assert ml is not None
    density, sure = ingredient.grams_per_ml(_SPOON.get(unit.key, "cup"))
    scoop, note = 1.0, ""
    spread = max(unit.spread, 0.03 if ingredient.water_g > 50 or ingredient.fat_g > 95 else 0.08)
    if ingredient.is_flour and unit.key == "cup":
        scooped = "scooped" in states or (profile.flour == "scooped" and "spooned" not in states)
        scoop = 1.2 if scooped else 1.0
        spread = 0.15 if profile.flour == "unknown" and not scooped else 0.10
        note = "scooped: a fifth more" if scooped else ""
    if unit.guess:
        sure, note = least(sure, "low"), f"a bare {unit.key} taken as {ml:g} mL"
    if unit.spread >= 0.4:
        sure = least(sure, "low")
    if heap_spread:
        sure = least(sure, "medium")
    sure = least(sure, "medium") if ingredient.is_flour else sure
    return ml * density * heap * scoop, spread + heap_spread, sure, note


_SPOON: dict[str, Literal["tbsp", "tsp"]] = {
    "tbsp": "tbsp",
    "dsp": "tbsp",
    "spoon": "tbsp",
    "tsp": "tsp",
    "pinch": "tsp",
    "dash": "tsp",
    "smidgen": "tsp",
    "drop": "tsp",
}


def _piece(measure: Measure, ingredient: Ingredient, facts: ReadingFacts, profile: Profile) -> tuple[float, float, Confidence, str] | None:
    if ingredient.group == "egg" and ingredient.unit_g:
        sizes = facts.units.egg_size[profile.eggs]
        size = measure.size or "large"
        whole = ingredient.id in ("egg", "egg_white", "egg_yolk")
        grams = ingredient.unit_g * (sizes[size] / 50.0 if whole else 1.0)
        return (
            grams,
            0.1,
            "high" if whole else "medium",
            f"{size.replace('_', ' ')}, {grams:.0f} g each" if whole else "",
        )
    if ingredient.unit_g and ingredient.unit_name not in ("scoop", "pinch", "stick", "spray"):
        factor = facts.units.fruit_size.get(measure.size or "medium", 1.0)
        return ingredient.unit_g * factor, 0.2, "medium", f"one taken as {ingredient.unit_g * factor:.0f} g"
    if ingredient.unit_g and ingredient.unit_name in ("scoop", "stick"):
        return ingredient.unit_g, 0.15, "low", f"one taken as a {ingredient.unit_name} of {ingredient.unit_g:g} g"
    return None


def _no_amount(base: dict[str, str], amount: Amount, ingredient: Ingredient) -> BatterLine:
    if ingredient.group in ("salt", "flavour", "intense_sweetener"):
        grams = 0.308 * ingredient.grams_per_ml()[0]
        return BatterLine(
            text=base["text"],
            ingredient=ingredient.id,
            grams=grams,
            low=0,
            high=grams * 4,
            confidence="low",
            note="no amount given: counted as a pinch",
        )
    if ingredient.unit_name == "spray":  # a film on the pan is all that a spray is for
        return unsaid(base["text"], ingredient)
    if amount.to_taste and (ingredient.group in ("fat_oil", "fat_solid") or ingredient.water_g >= 70):
        grams, words = (5.0, "a teaspoon") if ingredient.fat_g > 50 else (15.0, "a tablespoon")
        return BatterLine(
            text=base["text"], ingredient=ingredient.id, grams=grams, low=0, high=3 * grams, confidence="low",
            note=f"no amount given: counted as {words}",
        )  # fmt: skip
    return BatterLine(**base, problem="no amount given", confidence="low")


def unsaid(text: str, ingredient: Ingredient) -> BatterLine:
    """What meets the batter on the pan or the plate without an amount: a film of fat, or a spoon of topping."""
    grams = 5.0 if ingredient.group in ("fat_oil", "fat_solid") else 20.0
    return BatterLine(
        text=text,
        ingredient=ingredient.id,
        grams=grams,
        low=0,
        high=3 * grams,
        confidence="low",
        note=f"no amount given: counted as {grams:g} g",
        where="plate",
    )


def fixed(
    text: str,
    facts: ReadingFacts,
    id_: str,
    grams: float,
    spread: float,
    sure: Confidence,
    note: str,
    bounds: tuple[float, float] | None = None,
) -> BatterLine:
    """A line of so many grams, however it was said."""
    low, high = bounds or (grams, grams)
    return BatterLine(
        text=text, ingredient=id_, grams=cap(grams), low=cap(low * (1 - spread)), high=cap(high * (1 + spread)),
        confidence=least(sure, facts.ingredients[id_].confidence), note=note[:500],
    )  # fmt: skip


def milled(line: BatterLine, said: Said, facts: ReadingFacts, profile: Profile) -> BatterLine:
    """Oats ground to flour: measured as oats, used as flour."""
    if not _GROUND.search(said.text):
        return line
    whole = next((k for k, v in facts.names.milled.items() if line.ingredient in (k, v)), None)
    if whole is None or not re.search(r"\boats\b", said.text, re.IGNORECASE):
        return line
    measured = weigh(said, facts.ingredients[whole], facts, profile)
    return measured.model_copy(update={"ingredient": facts.names.milled[whole], "note": "measured before it was ground"})


def portion(line: BatterLine, id_: str, share: float) -> BatterLine:
    """A share of a line's weight, as another ingredient: one part of a prepared thing."""
    return line.model_copy(
        update={
            "ingredient": id_,
            "grams": line.grams * share,
            "low": line.low * share,
            "high": line.high * share,
            "confidence": least(line.confidence, "medium"),
        }
    )


def drained(raw: BatterLine, id_: str, stays: float) -> BatterLine:
    """What of a raw weight is left once it was squeezed, with what runs off told."""
    line = portion(raw, id_, stays)
    told = f"{raw.grams:.0f} g raw: about {raw.grams - line.grams:.0f} g run off, {line.grams:.0f} g stay"
    return line.model_copy(update={"note": "; ".join(x for x in (raw.note, told) if x)[:500]})


def cap(grams: float) -> float:
    """Grams as a line keeps them: rounded, and no more than a kitchen can hold."""
    return min(round(grams, 4), LARGEST_G)


def _within(line: BatterLine, high: float) -> BatterLine:
    if high > LARGEST_G:
        return BatterLine(text=line.text, problem="more than 100 kg", confidence="low")
    return line
