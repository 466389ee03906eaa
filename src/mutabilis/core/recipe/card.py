"""The recipe card of a batter: ingredients in the order of use, steps, cautions, allergens, and what a piece holds."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..analysis.analysis import Analysis
from ..batter.batter import BatterLine, FormKey
from ..diets.verdicts import Verdict
from ..food.kitchen_measures import measure
from ..food.nutrients import NUTRIENTS
from ..heat.largest_piece import largest_piece
from ..measures.profile import Profile
from ..process.parts import Portion, VesselKey, Ways
from ..process.sorting import Use
from ..reading.own_names import called
from ..words import sentence
from .facts import RecipeFacts
from .method import Method, Step, method

_TITLES: dict[Use, str] = {
    "soak": "First, to soak",
    "dry": "Dry",
    "wet": "Wet",
    "foam": "To whip",
    "late": "Last",
    "plate": "Pan and plate",
}
PER_PIECE = tuple(n for n in NUTRIENTS if n != "polyols_g")


@dataclass(frozen=True, slots=True, kw_only=True)
class CardLine:
    """One line of the card: grams [g], the kitchen's own measure, the name, and what stands beside it; `said`: what else the line
    says, as it would be read again; `parts`: where its parts go, where it does not go in at once."""

    name: str
    grams: float
    measure: str
    note: str
    said: str = ""
    parts: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CardGroup:
    """The lines that are used together; `side` where they are a dish beside the batter, under its own name."""

    use: Use
    title: str
    lines: tuple[CardLine, ...]
    side: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class CardVerdict:
    """A diet asked for, with the verdict on batter and plate together and its first reason."""

    diet: str
    label: str
    verdict: Verdict
    reason: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """All of the card. `largest`: the largest piece, its heat and its time, in words. `unread` are lines that could not be read, in their own words; they are never silently left out."""

    name: str
    form: FormKey
    form_label: str
    note: str
    verdicts: tuple[CardVerdict, ...]
    batter_g: float
    pieces: int
    last_share: float
    portion_ml: float
    servings: float
    groups: tuple[CardGroup, ...]
    unread: tuple[str, ...]
    steps: tuple[Step, ...]
    bowl_l: float
    leftovers: tuple[str, ...]
    cautions: tuple[str, ...]
    contains: tuple[str, ...]
    may_contain: tuple[str, ...]
    per_piece: dict[str, float]
    per_piece_plate: dict[str, float] | None
    largest: str = ""

    def parts(self) -> tuple[tuple[CardGroup, ...], tuple[CardGroup, ...]]:
        """The groups of the batter and its plate, and those of the dishes beside it: what was not read stands between."""
        return tuple(g for g in self.groups if not g.side), tuple(g for g in self.groups if g.side)


def card(
    name: str, a: Analysis, diets: Sequence[str], facts: RecipeFacts, profile: Profile, ways: Ways | None = None, note: str = ""
) -> Card:
    """The card of an analysed batter, for the diets named (those not known are passed over)."""
    m, told = method(a, facts, ways), profile.told
    lines = a.batter.lines
    cautions = dict.fromkeys(sentence(w.text) for w in a.warnings if w.code != "line_not_read")
    for key in diets:
        for r in (*a.plate.diets[key].cautions,) if key in a.plate.diets else ():
            cautions[sentence(r.text)] = None
    cautions[facts.safety.words("card")] = None
    return Card(
        name=name, form=a.batter.form, form_label=facts.forms[a.batter.form].label, note=note,
        verdicts=tuple(_verdict(key, a, facts) for key in diets if key in a.plate.diets), batter_g=a.batter_g, pieces=a.yields.whole,
        last_share=a.yields.last_share, portion_ml=a.yields.portion_ml, servings=a.servings, groups=_groups(m, a, facts, profile),
        unread=tuple(line.text for line in lines if line.unresolved), steps=tuple(replace(s, text=told(s.text), why=told(s.why)) for s in m.steps), bowl_l=m.bowl_l,
        leftovers=tuple(told(x) for x in m.leftovers), cautions=tuple(told(x) for x in cautions), contains=a.plate.contains, may_contain=a.plate.may_contain,
        per_piece=per_piece(a), per_piece_plate=per_piece(a, plate=True) if a.plate.lines else None,
        largest=told(piece.words) if (piece := largest_piece(a, facts)) else "",
    )  # fmt: skip


def per_piece(a: Analysis, plate: bool = False) -> dict[str, float]:
    """Nutrients of one piece [kcal, g, mg], of the batter or with its share of the plate; empty where there is no piece."""
    if a.yields.pieces <= 0:
        return {}
    n = a.plate.nutrition if plate else a.nutrition
    sodium = a.plate.sodium_mg if plate else a.sodium_mg
    return {k: (sodium if k == "sodium_mg" else getattr(n, k)) / a.yields.pieces for k in PER_PIECE}


def _verdict(key: str, a: Analysis, facts: RecipeFacts) -> CardVerdict:
    judged = a.plate.diets[key]
    label = facts.diets[key].label if key in facts.diets else key
    return CardVerdict(diet=key, label=label, verdict=judged.verdict, reason=judged.reasons[0].text if judged.reasons else "")


def _said(line: BatterLine, facts: RecipeFacts) -> str:
    """What else a line says, as it is read again: nothing that counts in a verdict is lost on paper or in a file."""
    names = {x: facts.ingredients[x].short for x in (*line.also, *line.maybe)}
    also = f" with {' and '.join(names[x] for x in line.also)}" if line.also else ""
    maybe = "".join(f" or {names[x]}" for x in line.maybe)
    heard = [t.rpartition(":")[2].replace("_", " ") for t in line.heard]
    unread = "".join(f", {w}" for w in (*line.unread, *(["spelling unconfirmed"] if line.guessed else []), *heard))
    return f"{maybe}{also}{unread}"


def _name(line: BatterLine, facts: RecipeFacts) -> str:
    """The cook's own name for a line's food, else the table's in full."""
    i, own = facts.ingredients[line.ingredient or ""], called(line, facts)
    return i.name if own == i.short else own


def _parted(parts: list[tuple[Portion, VesselKey]], facts: RecipeFacts) -> str:
    """Where the parts of one line go: "56 g soaking cup, 203 g jug, 21 g held back"."""
    names = {"egg_white": "whites", "egg_yolk": "yolks"}
    said = []
    for p, vessel in parts:
        what = f" {names[p.ingredient]}" if p.ingredient in names else ""
        where = "held back" if vessel == "held_cup" else facts.process.vessels[vessel]
        said.append(f"{p.grams:.0f} g{what} {where}")
    return ", ".join(said)


def _parts(m: Method, a: Analysis) -> list[tuple[Use, str, list[int]]]:
    """The lines by what becomes of them, the dishes beside the batter last, each under its own name."""
    found: list[tuple[Use, str, list[int]]] = []
    beside: dict[str, list[int]] = {}
    for use, places in m.uses:
        for at in places:
            if side := a.batter.lines[at].side:
                beside.setdefault(side, []).append(at)
        if own := [at for at in places if not a.batter.lines[at].side]:
            found.append((use, _TITLES[use], own))
    return [*found, *(("plate", name, places) for name, places in beside.items())]


def _groups(m: Method, a: Analysis, facts: RecipeFacts, profile: Profile) -> tuple[CardGroup, ...]:
    found = []
    parts: dict[int, list[tuple[Portion, VesselKey]]] = {}
    for o in m.plan.operations:
        for p in o.portions:
            parts.setdefault(p.line, []).append((p, o.vessel))
    for use, title, places in _parts(m, a):
        rows = []
        for at in places:
            line = a.batter.lines[at]
            i = facts.ingredients[line.ingredient or ""]
            name = _name(line, facts)
            beside = [*(s for s in line.states if use != "foam" and s not in name), *(["optional"] if line.optional else [])]
            if line.ranged:
                beside.append(f"given as “{line.text}”")
            beside += [f"with {facts.ingredients[x].short}" for x in line.also]
            if line.maybe:
                beside.append(f"or {' or '.join(facts.ingredients[x].short for x in line.maybe)}: choose")
            if line.unread or line.guessed:
                beside.append("not fully read")
            rows.append(
                CardLine(
                    name=name,
                    grams=line.grams,
                    measure=measure(i, line.grams, profile),
                    note=", ".join(beside),
                    said=_said(line, facts),
                    parts=_parted(parts[at], facts) if len(parts.get(at, ())) > 1 else "",
                )
            )
        found.append(CardGroup(use=use, title=title, lines=tuple(rows), side=title not in _TITLES.values()))
    return tuple(found)
