"""Diet rules and verdicts: fits, conflicts, cannot vouch, by line with the reason. An unknown is never safe.

A diet is a file of rules (see `data/diets`). A verdict of "fits" needs positive knowledge of every line.
"""

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from ..batter.batter import BatterLine
from ..food.allergen_tokens import FROM_ANIMALS
from ..food.ingredients import Ingredient
from ..food.nutrients import label_of, unit_of
from ..measures.profile import Profile
from ..words import listed
from .allergens import GLUTEN_CEREALS, PACKED_BESIDE, in_words, said
from .facts import DietFacts
from .packs import PackReading
from .rules import NO_ALLERGENS, Clause, DietRule

Verdict = Literal["fits", "conflicts", "cannot_vouch"]
Say = Callable[[str], None]
WORST: tuple[Verdict, ...] = ("fits", "cannot_vouch", "conflicts")


@dataclass(frozen=True, slots=True, kw_only=True)
class Reason:
    """Why a line does not simply fit. `line` is its place in the batter, None for the batter as a whole."""

    line: int | None
    text: str
    verdict: Verdict


@dataclass(frozen=True, slots=True)
class Judged:
    """A diet's verdict on a batter, its reasons, and the cautions that stay even where it fits."""

    verdict: Verdict
    reasons: tuple[Reason, ...]
    cautions: tuple[Reason, ...]


# Verdicts already worked out, by ingredient, rule and settings; an entry counts only for the very objects it was made from.
_JUDGED: dict[tuple[str, str, tuple[object, ...]], tuple[Ingredient, DietRule, tuple[Verdict, str, str]]] = {}


def worst(verdicts: Iterable[Verdict]) -> Verdict:
    """The worst of several verdicts; "fits" of none.

    >>> worst(["fits", "cannot_vouch", "fits"])
    'cannot_vouch'
    """
    return WORST[max((WORST.index(v) for v in verdicts), default=0)]


def judge_ingredient(i: Ingredient, rule: DietRule, profile: Profile, reading: PackReading | None = None) -> tuple[Verdict, str, str]:
    """Verdict on one ingredient, the reason where it is not "fits", and a caution that stays where it is."""
    if reading is not None:
        return _judge_ingredient(i, rule, profile, reading)
    key = (i.id, rule.key, profile.schools)
    known = _JUDGED.get(key)
    if known is None or known[0] is not i or known[1] is not rule:
        if len(_JUDGED) > 50_000:
            _JUDGED.clear()
        known = _JUDGED[key] = (i, rule, _judge_ingredient(i, rule, profile, None))
    return known[2]


def _judge_ingredient(i: Ingredient, rule: DietRule, profile: Profile, reading: PackReading | None) -> tuple[Verdict, str, str]:
    found: list[tuple[Verdict, str]] = []
    cautions: list[str] = []
    if rule.allow and i.id not in rule.allow:
        found.append(("conflicts", f"{i.short} is not on the list of what {rule.label} allows"))
    for clause in rule.deny:
        if all(getattr(profile, k) == v for k, v in clause.only.items()):
            _clause(i, clause, rule, profile, reading, found, cautions)
    told = reading is not None and (not reading.part or _vegan_is_enough(rule, reading))
    if not found and i.pack_decides and (rule.deny or rule.limits) and not told:
        found.append(("cannot_vouch", f"{i.short}: what is in it differs from pack to pack"))
    verdict = worst(v for v, _ in found)
    reason = next((r for v, r in found if v == verdict and verdict != "fits"), "")
    if verdict == "fits" and reading is not None:
        cautions.append(f"{i.short}: confirmed by the pack “{reading.pack}”, read by {reading.by} on {reading.on}")
    return verdict, reason, "; ".join(dict.fromkeys(cautions))


def _vegan_is_enough(rule: DietRule, reading: PackReading) -> bool:
    """Whether a pack that says vegan says all that a rule asks: one about animals, that denies no more than comes of them. Whoever reacts to
    milk or egg needs the label's word on these."""
    return bool(reading.vegan and not rule.limits and rule.about_animals and all(_of_animals(clause) for clause in rule.deny))


def _of_animals(c: Clause) -> bool:
    """Whether a clause denies nothing but what comes of animals."""
    plants = c.gluten or c.group or c.ingredient or c.added_sugar or c.lactose
    return not plants and {*c.allergen} <= {*FROM_ANIMALS, *NO_ALLERGENS}


def _travelling(i: Ingredient, rule: DietRule, reading: PackReading | None) -> Iterator[str]:
    """The allergens denied that an ingredient does not hold but is grown, milled or packed beside, unless its pack was read for them."""
    named = {part for token in i.allergens for part in token.split(":")}
    holds = {token.removeprefix("may:").partition(":")[0] for token in i.allergens}
    denied = dict.fromkeys(a for clause in rule.deny for a in clause.allergen)
    for allergen in denied:
        told = i.is_own_pack or (reading is not None and (not reading.part or allergen in reading.answers))
        if allergen in named or told:
            continue
        milled = allergen in GLUTEN_CEREALS and i.contains_gluten != "no" and not any(clause.gluten for clause in rule.deny)
        if milled or any(x in holds and x not in denied for x in PACKED_BESIDE.get(allergen, ())):
            yield allergen


def _clause(
    i: Ingredient,
    c: Clause,
    rule: DietRule,
    profile: Profile,
    reading: PackReading | None,
    found: list[tuple[Verdict, str]],
    cautions: list[str],
) -> None:
    def hit(detail: str) -> None:
        found.append((c.verdict, f"{i.short}: {c.reason}{f' ({detail})' if detail else ''}"))

    def doubt(what: str) -> None:
        found.append(("cannot_vouch", f"{i.short}: {what}"))

    read = reading is not None
    if c.animal:
        if i.animal in c.animal:
            hit("")
        elif i.animal == "check" and not (read and reading is not None and reading.vegan):
            doubt("only its pack can tell whether it comes from an animal")
    if c.allergen:
        _allergens(i, c, rule, profile, reading, hit, doubt, cautions)
    if c.gluten:
        if i.contains_gluten == "yes":
            hit("")
        elif i.contains_gluten == "risk" and not (read and reading is not None and reading.certified_gluten_free):
            lenient = (profile.uncertified_flour == "read_the_pack" and not i.pack_decides) or (
                "oats" in i.allergens and profile.oats == "any"
            )
            if lenient:
                cautions.append(f"{i.short}: not certified gluten-free; read the pack")
            else:
                doubt("gluten may travel with it; take one certified gluten-free, or read the pack")
        elif "oats" in i.allergens:
            cautions.append(f"{i.short}: oats, even certified, are not for every coeliac guest")
    if i.group in c.group or i.id in c.ingredient:
        hit("")
    if c.added_sugar:
        if i.added_sugar == "yes":
            hit("")
        elif i.added_sugar == "check" and not (read and reading is not None and reading.added_sugar is False):
            doubt("only its pack can tell whether sugar was added")
    if c.refined and i.refined in c.refined:
        hit("")
    if c.lactose and ("milk" in i.allergens or i.animal == "dairy"):
        if i.lactose == "":
            hit("")
        elif i.lactose in ("trace", "check"):
            doubt("a trace of lactose may be left")


def _allergens(
    i: Ingredient,
    c: Clause,
    rule: DietRule,
    profile: Profile,
    reading: PackReading | None,
    hit: Say,
    doubt: Say,
    cautions: list[str],
) -> None:
    traces = rule.traces if profile.traces == "as_diet" else profile.traces
    tokens = set(i.allergens)
    if reading is not None and reading.part:
        tokens -= {f"{doubt}:{a}" for a in reading.answers for doubt in ("check", "may")}
        if reading.vegan and rule.about_animals and _of_animals(c):
            tokens -= {f"check:{a}" for a in (*FROM_ANIMALS, *NO_ALLERGENS, "any")}
    elif reading is not None:
        tokens = (
            {t for t in tokens if not t.startswith(("check:", "may:"))} | set(reading.contains) | {f"may:{t}" for t in reading.may_contain}
        )
    for token in sorted(tokens):
        kind, _, rest = token.partition(":")
        if kind in ("may", "check", "cross"):
            allergen = rest
        else:
            allergen, kind = token, "has"
        if not (allergen == "any" or any(allergen == a or allergen.startswith(f"{a}:") for a in c.allergen)):
            continue
        word = "animal rennet" if allergen == "rennet" else in_words(allergen)
        if kind == "has":
            hit("" if c.allergen == (allergen,) else word)
        elif kind == "check":
            doubt("only its pack can tell" if allergen == "any" else f"only its pack can tell whether it holds {word}")
        elif kind == "may" and traces == "cannot_vouch":
            doubt(f"may hold traces of {word}; read the pack")
        elif kind == "may":
            cautions.append(f"{i.short}: may hold traces of {word}")
        elif kind == "cross":
            cautions.append(f"{i.short}: some who react to {word} react to this too")


def judge(
    lines: tuple[BatterLine, ...], rule: DietRule, facts: DietFacts, profile: Profile,
    per_serving: Mapping[str, float] | None = None, readings: Mapping[str, PackReading] | None = None, where: str = "batter",
) -> Judged:  # fmt: skip
    """Verdict on the lines of a batter (or of the plate, where `where` says so).

    `per_serving`: nutrients of one serving, for the limits; an unresolved line is "cannot vouch" for everything.
    """
    reasons: list[Reason] = []
    cautions: list[Reason] = []
    carriers: dict[str, dict[str, None]] = {}
    for at, line in enumerate(lines):
        # A food that only an instruction names may be in the bowl; one that only the name of a dish tells, in that dish.
        if line.where not in (where, "aside") or (line.where == "aside" and (where == "plate") != bool(line.side)):
            continue
        reasons += [Reason(line=at, text=text, verdict=verdict) for text, verdict in _beside(line, rule, facts, profile, readings or {})]
        if line.where == "aside":
            continue
        if line.unresolved:
            unread = f"{line.quoted()} could not be read ({line.problem or 'unknown'}): nothing can be said of it"
            reasons.append(Reason(line=at, text=unread, verdict="cannot_vouch"))
        if line.ingredient is None:
            continue
        reading = (readings or {}).get(line.ingredient)
        verdict, reason, caution = judge_ingredient(facts.ingredients[line.ingredient], rule, profile, reading)
        if verdict != "fits":
            reasons.append(Reason(line=at, text=reason, verdict=verdict))
        if caution:
            cautions.append(Reason(line=at, text=caution, verdict="fits"))
        for allergen in _travelling(facts.ingredients[line.ingredient], rule, reading):
            carriers.setdefault(allergen, {})[facts.ingredients[line.ingredient].short] = None
    if where == "batter" and not any(line.where == where for line in lines):
        reasons.append(Reason(line=None, text="there is nothing in the bowl to vouch for", verdict="cannot_vouch"))
    for limit in rule.limits if per_serving is not None else ():
        amount = per_serving[limit.nutrient] if per_serving is not None else 0.0
        if amount > limit.most + 1e-6:
            unit, what = unit_of(limit.nutrient), label_of(limit.nutrient)
            reasons.append(
                Reason(line=None, text=f"{amount:.1f} {unit} {what} in a serving; {rule.label} allows {limit.most:g}", verdict="conflicts")
            )
    if not reasons:
        travels = [
            f"{in_words(a)} may travel with {listed(by)}: read {'their packs' if len(by) > 1 else 'its pack'}" for a, by in carriers.items()
        ]
        cautions += [Reason(line=None, text=text, verdict="fits") for text in (*travels, rule.caution) if text]
    return _judged(reasons, cautions)


_IN_SHORT = (
    (re.compile(r"\(([^()]+)\)"), "{}"), (re.compile(r"whether it holds (.+)"), "{}?"), (re.compile(r"traces of ([^;]+)"), "traces of {}?"), (re.compile(r"\bholds (.+)"), "{}"),
    (re.compile(r"whether it comes from an animal"), "animal?"), (re.compile(r"(gluten) may travel"), "{}?"), (re.compile(r"(honey) is made by bees"), "{}"), (re.compile(r"trace of (lactose)"), "{}?"),
    (re.compile(r"whether (sugar) was added"), "{}?"), (re.compile(r"only its pack can tell|from pack to pack"), "ask its pack"), (re.compile(r"not on the list"), "not on the list"),
)  # fmt: skip
_ANIMALS = {"egg": "egg", "dairy": "milk", "meat": "meat", "fish": "fish", "insect": "insects", "honey": "honey"}


def in_short(reason: str, i: Ingredient) -> str:
    """A reason in a word or two, for the line itself: "milk", "egg?", "ask its pack".

    >>> from mutabilis.data import load_facts
    >>> known = load_facts().ingredients
    >>> in_short("whole milk: comes from an animal", known["whole_milk"]), in_short("blend: only its pack can tell whether it holds egg", known["gf_flour_blend"])
    ('milk', 'egg?')
    """
    said = reason.partition(": ")[2] or reason
    if "comes from a" in said and "whether" not in said:
        return _ANIMALS.get(i.animal, "from an animal")
    if "made by bees" in said:
        return "honey"
    for pattern, words in _IN_SHORT:
        if m := pattern.search(said):
            return words.format(*m.groups())
    return " ".join(said.split()[:4])


def together(*parts: Judged) -> Judged:
    """One verdict on what one guest eats of several parts, or on one part for several diets."""
    return _judged((r for p in parts for r in p.reasons), (c for p in parts for c in p.cautions))


def _judged(reasons: Iterable[Reason], cautions: Iterable[Reason]) -> Judged:
    """The worst of the reasons decides, and is said first."""
    told = sorted(reasons, key=lambda r: -WORST.index(r.verdict))
    return Judged(worst(r.verdict for r in told), tuple(told), tuple(cautions))


# From how much of a nutrient in 100 g of a food its unweighed presence can matter for a limit.
_NOTABLE = {"g": 5.0, "mg": 100.0, "kcal": 50.0}


def beside_fits(line: BatterLine, rule: DietRule, facts: DietFacts, profile: Profile, readings: Mapping[str, PackReading]) -> bool:
    """Whether nothing that stands beside the food of a line keeps it from fitting a diet."""
    return not _beside(line, rule, facts, profile, readings)


def _beside(
    line: BatterLine, rule: DietRule, facts: DietFacts, profile: Profile, readings: Mapping[str, PackReading]
) -> list[tuple[str, Verdict]]:
    """What stands beside the food of a line: foods and allergens named count; what is open or unknown is not confirmed."""
    if not (line.also or line.maybe or line.heard or line.unread or line.guessed):
        return []
    found: list[tuple[str, Verdict]] = []
    for id_ in line.also:
        verdict, reason, _ = judge_ingredient(facts.ingredients[id_], rule, profile, readings.get(id_))
        if verdict != "fits":
            found.append((reason, verdict))
    for id_ in line.maybe:
        if judge_ingredient(facts.ingredients[id_], rule, profile, readings.get(id_))[0] != "fits":
            found.append((f"the line leaves it open whether it is {facts.ingredients[id_].short}: choose", "cannot_vouch"))
    for token in line.heard:
        verdict, reason, _ = judge_ingredient(said(token, facts), rule, profile)
        if verdict != "fits":
            found.append((reason, verdict))
    if line.unread:
        found.append((f"not known: “{', '.join(line.unread)}”", "cannot_vouch"))
    if line.guessed:
        found.append((f"read as “{line.guessed}”: is that what is meant?", "cannot_vouch"))
    for limit in rule.limits:
        for id_ in (*line.also, *line.maybe):
            if per_100g(facts.ingredients[id_], limit.nutrient) >= _NOTABLE[unit_of(limit.nutrient)]:
                found.append((f"how much {facts.ingredients[id_].short} goes with it is not said", "cannot_vouch"))
    return found


def per_100g(i: Ingredient, nutrient: str) -> float:
    """Roughly how much of a nutrient 100 g hold; net carbohydrate by its carbohydrate less fibre."""
    held = {"net_carb_g": i.carb_g - i.fibre_g, "polyols_g": i.polyol_g}
    return held[nutrient] if nutrient in held else float(getattr(i, nutrient))
