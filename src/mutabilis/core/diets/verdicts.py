"""Diet rules and verdicts: fits, conflicts, cannot vouch, by line with the reason. An unknown is never safe.

A diet is a file of rules (see `data/diets`). A verdict of "fits" needs positive knowledge of every line.
"""

import re
import tomllib
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator, model_validator

from ..batter.batter import BatterLine
from ..facts import Facts
from ..food.ingredients import Ingredient
from ..measures.units import Profile
from .allergens import said

Verdict = Literal["fits", "conflicts", "cannot_vouch"]
Say = Callable[[str], None]
WORST: tuple[Verdict, ...] = ("fits", "cannot_vouch", "conflicts")
NUTRIENTS = (
    "kcal",
    "protein_g",
    "fat_g",
    "sat_fat_g",
    "carb_g",
    "fibre_g",
    "sugars_g",
    "polyols_g",
    "net_carb_g",
    "sodium_mg",
)


ANIMALS = {"dairy", "egg", "honey", "meat", "fish", "insect", "other"}
ALLERGENS = {
    "wheat", "rye", "barley", "oats", "crustacean", "egg", "fish", "peanut", "soy", "milk", "tree_nut", "celery", "mustard", "sesame", "sulphite",
    "lupin", "mollusc", "coconut",
}  # fmt: skip
# Told of a row in the same column, minded by a diet, and no allergen.
NO_ALLERGENS = {"rennet"}


class Clause(BaseModel):
    """One thing a diet denies. Each field lists values; a clause bites where any of them matches. `only` makes it depend
    on a setting of the kitchen; `verdict` may soften it to "cannot vouch"."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    animal: tuple[str, ...] = ()
    allergen: tuple[str, ...] = ()
    gluten: tuple[Literal["yes"], ...] = ()
    group: tuple[str, ...] = ()
    ingredient: tuple[str, ...] = ()
    added_sugar: tuple[Literal["yes"], ...] = ()
    refined: tuple[Literal["yes"], ...] = ()
    lactose: bool = False
    only: dict[str, str | bool] = Field(default_factory=dict)
    verdict: Literal["conflicts", "cannot_vouch"] = "conflicts"
    reason: Annotated[str, Field(min_length=3, max_length=200)]

    @field_validator("only")
    @classmethod
    def _of_known_settings(cls, only: dict[str, str | bool]) -> dict[str, str | bool]:
        unknown = only.keys() - Profile.model_fields.keys()
        if unknown:
            raise ValueError(f"no setting of the kitchen is called {', '.join(sorted(unknown))}")
        return only


class Limit(BaseModel):
    """At most `most` of a nutrient in one serving."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    nutrient: Literal[
        "kcal",
        "protein_g",
        "fat_g",
        "sat_fat_g",
        "carb_g",
        "fibre_g",
        "sugars_g",
        "polyols_g",
        "net_carb_g",
        "sodium_mg",
    ]
    most: Annotated[float, Field(ge=0, le=10_000, allow_inf_nan=False)]
    reason: Annotated[str, Field(max_length=200)] = ""


class DietRule(BaseModel):
    """A diet as a file of rules. `allow`, where not empty, makes it an allow-list: nothing else may be used."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{1,40}$")]
    label: Annotated[str, Field(min_length=2, max_length=60)]
    order: int = 100
    traces: Literal["caution", "cannot_vouch"] = "cannot_vouch"
    caution: Annotated[str, Field(max_length=300)] = ""
    deny: tuple[Clause, ...] = ()
    allow: tuple[str, ...] = ()
    limits: tuple[Limit, ...] = ()


class PackReading(BaseModel):
    """What someone read on a pack. It stands for that pack only and lapses with a new one. Where it `answers` some questions (allergens,
    that the pack does not name), it speaks of those and of what it says outright, and of nothing else; else of the whole label."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    ingredient: str
    pack: Annotated[str, Field(min_length=1, max_length=120)]
    by: Annotated[str, Field(min_length=1, max_length=80)]
    on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    contains: tuple[str, ...] = ()
    may_contain: tuple[str, ...] = ()
    certified_gluten_free: bool = False
    vegan: bool | None = None
    added_sugar: bool | None = None
    part: bool = False
    answers: tuple[Annotated[str, Field(max_length=40)], ...] = ()

    @model_validator(mode="after")
    def _says_one_thing(self) -> "PackReading":
        if self.answers and not self.part:
            raise ValueError("a reading of the whole label answers no single question")
        if self.part and (self.contains or self.may_contain):
            raise ValueError("what a pack names is read off the whole label")
        return self

    def with_part(self, part: "PackReading") -> "PackReading":
        """This reading with what was read of the same pack later; what the whole label named stays named."""
        return self.model_copy(
            update={
                "by": part.by,
                "on": part.on,
                "certified_gluten_free": self.certified_gluten_free or part.certified_gluten_free,
                "vegan": self.vegan or part.vegan,
                "added_sugar": part.added_sugar if self.added_sugar is None else self.added_sugar,
                "answers": tuple(dict.fromkeys((*self.answers, *part.answers))) if self.part else (),
            }
        )


def standing(readings: Iterable[PackReading], packs: Mapping[str, str]) -> dict[str, PackReading]:
    """The readings that stand: the latest of the pack in use of each ingredient, parts of one label together. A new pack lapses what
    was read on the old one; where no pack is named as in use, the latest reading stands."""
    found: dict[str, PackReading] = {}
    for reading in sorted(readings, key=lambda r: r.on):
        if packs.get(reading.ingredient, reading.pack) == reading.pack:
            before = found.get(reading.ingredient)
            goes_on = reading.part and before is not None and before.pack == reading.pack
            found[reading.ingredient] = before.with_part(reading) if before and goes_on else reading
    return found


@dataclass(frozen=True, slots=True)
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


def read_rule(text: str, name: str) -> DietRule:
    """A rule from its file; ValueError naming file, line and fault."""
    try:
        return DietRule.model_validate(tomllib.loads(text))
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise ValueError(f"{name}: {error if isinstance(error, ValueError) else 'nested too deeply'}") from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])
        raise ValueError(f"{name}, line {line_of(text, first['loc'])}: {place}: {first['msg']}") from error


def line_of(text: str, place: tuple[int | str, ...]) -> int:
    """The line of a rule file that a place like ("deny", 1, "reason") stands on; its table's line where the key is missing.

    >>> line_of('key = "a"\\n[[deny]]\\n[[deny]]\\ngroup = 3', ("deny", 1, "group"))
    4
    """
    lines = text.splitlines()
    start = 0
    if len(place) > 1 and isinstance(place[1], int):
        heads = [n for n, line in enumerate(lines) if line.strip().startswith(f"[[{place[0]}]]")]
        start = heads[place[1]] if place[1] < len(heads) else 0
        place = place[2:]
    if place:
        for n in range(start, len(lines)):
            if n > start and lines[n].lstrip().startswith("["):
                break
            if re.match(rf"\s*{re.escape(str(place[0]))}\s*=", lines[n]):
                return n + 1
    return start + 1


def check_rule(rule: DietRule, text: str, name: str, ingredients: Mapping[str, Ingredient]) -> None:
    """ValueError, with the line, where a rule names an ingredient, a group or a setting that is not there: a misspelt name would
    deny nothing, and a diet would be falsely safe."""
    groups = {i.group for i in ingredients.values()}
    known = {
        "allow": set(ingredients),
        "ingredient": set(ingredients),
        "group": groups,
        "animal": ANIMALS,
        "allergen": ALLERGENS | NO_ALLERGENS,
        "only": set(Profile.model_fields),
    }

    def look(words: Iterable[str], kind: str, place: tuple[int | str, ...]) -> None:
        for word in words:
            if word.partition(":")[0] not in known[kind] and word not in known[kind]:
                raise ValueError(f"{name}, line {line_of(text, place)}: no {kind} “{word}”")

    look(rule.allow, "allow", ("allow",))
    for at, clause in enumerate(rule.deny):
        for kind in ("ingredient", "group", "animal", "allergen", "only"):
            look(getattr(clause, kind), kind, ("deny", at, kind))


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
    if not found and i.pack_decides and (rule.deny or rule.limits) and (reading is None or reading.part):
        found.append(("cannot_vouch", f"{i.short}: what is in it differs from pack to pack"))
    verdict = worst(v for v, _ in found)
    reason = next((r for v, r in found if v == verdict and verdict != "fits"), "")
    if verdict == "fits" and reading is not None:
        cautions.append(f"{i.short}: vouched for by the pack “{reading.pack}”, read by {reading.by} on {reading.on}")
    return verdict, reason, "; ".join(dict.fromkeys(cautions))


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
        word = "animal rennet" if allergen == "rennet" else allergen.replace("tree_nut:", "").replace("_", " ")
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
    lines: tuple[BatterLine, ...], rule: DietRule, facts: Facts, profile: Profile,
    per_serving: Mapping[str, float] | None = None, readings: Mapping[str, PackReading] | None = None, where: str = "batter",
) -> Judged:  # fmt: skip
    """Verdict on the lines of a batter (or of the plate, where `where` says so).

    `per_serving`: nutrients of one serving, for the limits; an unresolved line is "cannot vouch" for everything.
    """
    reasons: list[Reason] = []
    cautions: list[Reason] = []
    for at, line in enumerate(lines):
        # A food that only an instruction names may be in the bowl.
        if line.where not in (where, "aside") or (line.where == "aside" and where != "batter"):
            continue
        reasons += [Reason(at, text, verdict) for text, verdict in _beside(line, rule, facts, profile, readings or {})]
        if line.where == "aside":
            continue
        if line.unresolved:
            unread = f"“{line.text[:80]}” could not be read ({line.problem or 'unknown'}): nothing can be said of it"
            reasons.append(Reason(at, unread, "cannot_vouch"))
        if line.ingredient is None:
            continue
        reading = (readings or {}).get(line.ingredient)
        verdict, reason, caution = judge_ingredient(facts.ingredients[line.ingredient], rule, profile, reading)
        if verdict != "fits":
            reasons.append(Reason(at, reason, verdict))
        if caution:
            cautions.append(Reason(at, caution, "fits"))
    if where == "batter" and not any(line.where == where for line in lines):
        reasons.append(Reason(None, "there is nothing in the bowl to vouch for", "cannot_vouch"))
    for limit in rule.limits if per_serving is not None else ():
        amount = per_serving[limit.nutrient] if per_serving is not None else 0.0
        if amount > limit.most + 1e-6:
            unit = _unit(limit.nutrient)
            what = limit.nutrient.removesuffix("_g").removesuffix("_mg").replace("_", " ").replace("net carb", "net carbohydrate")
            reasons.append(Reason(None, f"{amount:.1f} {unit} {what} in a serving; {rule.label} allows {limit.most:g}", "conflicts"))
    if rule.caution and not reasons:
        cautions.append(Reason(None, rule.caution, "fits"))
    reasons.sort(key=lambda r: -WORST.index(r.verdict))  # what decides is said first
    return Judged(worst(r.verdict for r in reasons), tuple(reasons), tuple(cautions))


# From how much of a nutrient in 100 g of a food its unweighed presence can matter for a limit.
_NOTABLE = {"g": 5.0, "mg": 100.0, "kcal": 50.0}


def _unit(nutrient: str) -> str:
    return "mg" if nutrient.endswith("_mg") else "kcal" if nutrient == "kcal" else "g"


def beside_fits(line: BatterLine, rule: DietRule, facts: Facts, profile: Profile, readings: Mapping[str, PackReading]) -> bool:
    """Whether nothing that stands beside the food of a line keeps it from fitting a diet."""
    return not _beside(line, rule, facts, profile, readings)


def _beside(
    line: BatterLine, rule: DietRule, facts: Facts, profile: Profile, readings: Mapping[str, PackReading]
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
            if per_100g(facts.ingredients[id_], limit.nutrient) >= _NOTABLE[_unit(limit.nutrient)]:
                found.append((f"how much {facts.ingredients[id_].short} goes with it is not said", "cannot_vouch"))
    return found


def per_100g(i: Ingredient, nutrient: str) -> float:
    """Roughly how much of a nutrient 100 g hold; net carbohydrate by its carbohydrate less fibre."""
    held = {"net_carb_g": i.carb_g - i.fibre_g, "polyols_g": i.polyol_g}
    return held[nutrient] if nutrient in held else float(getattr(i, nutrient))
