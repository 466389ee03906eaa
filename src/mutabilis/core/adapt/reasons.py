"""Why each change was made, as a cook would say it: what goes, what takes over its work, what to do differently, what is lost. The
figures stand apart, for who touches the line."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..batter.batter import Batter, BatterLine
from ..diets.rules import DietRule
from ..food.ingredients import KINDS, certified, uncertified
from ..words import listed
from .candidates import Candidate, Gathered
from .craft import Flavour
from .facts import AdaptFacts
from .saying import flavours_gone, mend_of
from .transfers import Transfer, say
from .writing import Writer

# What a thing does in another's stead, and what is named first: the work a cook thinks of before the water in it.
_DOES = {
    "set": "binds", "flour": "gives the body", "lift": "lifts", "acid": "sours", "water": "brings the liquid", "fat": "brings the fat", "sweet": "sweetens",
    "salt": "salts",
}  # fmt: skip
# What a small move of a line keeps as it was, by its kind.
_KEEPS = {
    "flour": "thickness", "liquid": "thickness", "sweetener": "sweetness", "fat": "richness", "leavener": "lift", "acid": "sourness",
    "salt": "saltiness", "set": "hold", "protein": "protein",
}  # fmt: skip
_SCALE = {"flour": 20.0, "water": 40.0, "set": 0.4, "fat": 5.0, "lift": 10.0, "acid": 8.0, "sweet": 8.0, "salt": 0.6}
WORTH_A_WORD = 0.35  # of what a cook notices of a function
A_LITTLE, FAR = 1.2, 1.8  # times as much


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One change: `source` what it was (None for something added), `target` what takes its place (None for something
    dropped), the reason in words, and its figures."""

    source: str | None
    target: str | None
    reason: str
    source_id: str | None = None
    target_id: str | None = None
    figures: str = ""


@dataclass(frozen=True, slots=True)
class _Told:
    """What the sentences are made from."""

    gathered: Gathered
    now: Mapping[str, float]
    moved: Sequence[Transfer]
    facts: AdaptFacts
    gone: Sequence[Flavour]
    writer: Writer

    def short(self, id_: str) -> str:
        return self.facts.ingredients[id_].short


def changes_for(
    gathered: Gathered, rounded: Sequence[tuple[Candidate, float]], moved: Sequence[Transfer], before: Analysis, after: Analysis,
    writer: Writer,
) -> tuple[Change, ...]:  # fmt: skip
    """Every change between base and answer with its reason, replaced things first."""
    facts = writer.facts
    told = _Told(gathered, {c.ingredient.id: g for c, g in rounded}, moved, facts, flavours_gone(before, after, facts), writer)
    new = {c.ingredient.id: c for c, _ in rounded if c.new}
    changes: list[Change] = []
    explained: set[str] = set()
    for i, grams, why in gathered.removed:
        parts = [t for t in moved if t.source == i.id]
        takers = _takers(parts, i.id)
        target = next((t for t in takers if t in new), takers[0] if takers else None)
        twin = certified(i.id)
        same = twin in new and told.now.get(twin, 0.0) >= 0.8 * grams
        target = twin if same else target
        if i.group == "mix_in":  # gram for gram, by its kind: no part of the batter's balance
            target = next((x for x in facts.craft.stand_ins(i.id) for x in (x, certified(x)) if x in told.now), None)
            instead = f"{_cap(told.short(target))} in its place." if target else "Nothing that fits stands in for it."
            changes.append(
                Change(
                    source=i.short,
                    target=told.short(target) if target else None,
                    reason=f"{_cap(why)}. {instead}",
                    source_id=i.id,
                    target_id=target,
                )
            )
            continue
        said = [
            f"{_cap(why)}.",
            f"{_cap(told.short(twin))} in its place." if same else _taking_over(parts, i.id, told) or "Nothing need take its place.",
            *_how(target, new, explained),
            *_taste(i.id, told),
        ]
        if target:
            explained.add(target)
        changes.append(
            Change(
                source=i.short,
                target=told.short(target) if target else None,
                reason=" ".join(said),
                source_id=i.id,
                target_id=target,
                figures=_figures(parts, i.id, grams, told),
            )
        )
    for c, grams in rounded:
        id_ = c.ingredient.id
        if c.new and id_ not in explained:
            parts = [t for t in moved if t.target == id_ and t.source != id_]
            work = _work(parts)
            said = [
                f"{_cap(c.ingredient.short)} goes in: it {_doing(work)}."
                if work
                else f"{_cap(c.ingredient.short)} goes in, so that the batter stays in balance.",
                *_how(id_, new, explained),
            ]
            explained.add(id_)
            changes.append(
                Change(
                    source=None,
                    target=c.ingredient.short,
                    reason=" ".join(said),
                    source_id=None,
                    target_id=id_,
                    figures=_figures(parts, id_, grams, told),
                )
            )
        elif not c.new and abs(grams - c.base_g) > max(0.02 * c.base_g, 0.05):
            changes.append(_moved(c, grams, told))
    for c in gathered.candidates:
        if not c.new and c.ingredient.id not in told.now and c.base_g > 0:
            parts = [t for t in moved if t.source == c.ingredient.id]
            said = ["No longer needed.", _taking_over(parts, c.ingredient.id, told), *_taste(c.ingredient.id, told)]
            changes.append(
                Change(
                    source=c.ingredient.short,
                    target=None,
                    reason=" ".join(x for x in said if x),
                    source_id=c.ingredient.id,
                    target_id=None,
                    figures=_figures(parts, c.ingredient.id, c.base_g, told),
                )
            )
    return tuple(changes)


def unchanged(rules: Mapping[str, DietRule]) -> str:
    """The reason of an answer that is its base."""
    whom = " and ".join(r.label.lower() for r in rules.values())
    return f"Nothing has to change: every line fits {whom}." if whom else "Nothing has to change."


def _moved(c: Candidate, grams: float, told: _Told) -> Change:
    """A line that stays with more or less of it."""
    id_, more = c.ingredient.id, grams > c.base_g
    parts = [t for t in told.moved if (t.target if more else t.source) == id_ and t.source != t.target]
    ratio = max(grams, c.base_g) / max(min(grams, c.base_g), 0.05)
    amount = f"{'A little ' if ratio < A_LITTLE else 'Much ' if ratio > FAR else ''}{'more' if more else 'less'} of it"
    others = _takers([t for t in parts if _weight(t) > WORTH_A_WORD], id_)
    why = f"to keep the {_KEEPS.get(KINDS.get(c.ingredient.group, ''), 'balance')} the same"
    if more and (work := _work(parts)):
        sources = dict.fromkeys(
            told.short(t.source) for t in sorted(parts, key=_weight, reverse=True) if t.source and _weight(t) > WORTH_A_WORD
        )
        why = f"it {_doing(work)}" + (f", in place of {listed(list(sources)[:2])}" if sources else "")
    elif not more and others:
        why = f"{listed([told.short(t) for t in others[:2]])} {'does' if len(others) == 1 else 'do'} part of its work"
    return Change(
        source=c.ingredient.short, target=c.ingredient.short, reason=f"{_cap(amount)}: {why}.", source_id=id_, target_id=id_,
        figures=f"{_amount(c.base_g)} → {_amount(grams)}" + (f"; {tail}" if (tail := _figures(parts, id_, 0.0, told)) else ""),
    )  # fmt: skip


def _taking_over(parts: Sequence[Transfer], own: str, told: _Told) -> str:
    """ "Ground flaxseed holds the batter together; soy drink brings the liquid." One clause a taker, the heaviest work first."""
    clauses: list[str] = []
    said: set[str] = set()
    for taker in _takers(parts, own)[:3]:
        done = {t.function for t in parts if t.target == taker and _weight(t) > WORTH_A_WORD} - said
        if done == {"salt"} and clauses:
            continue
        if done:
            clauses.append(f"{told.short(taker)} now {_doing([f for f in _DOES if f in done])}")
            said |= done
    left = [t.function for t in parts if t.target is None and _weight(t) > 1.0 and t.function not in said]
    words = {
        "set": "it holds a little less",
        "sweet": "it is a little less sweet",
        "fat": "it is a little leaner",
        "salt": "it is a little less salty",
    }
    clauses += [words[f] for f in left if f in words][:1]
    return f"{_cap('; '.join(clauses))}." if clauses else ""


def _doing(functions: Sequence[str]) -> str:
    """ "binds and brings the liquid": a verb is said once, and salt only where there is nothing else to say.

    >>> _doing(["set", "water", "fat"]), _doing(["fat", "salt"]), _doing(["salt"])
    ('binds, brings the liquid and the fat', 'brings the fat', 'salts')
    """
    told = [f for f in functions if f != "salt"] or list(functions)
    brings = [f for f in ("water", "fat") if f in told]
    said = [_DOES[f] for f in told if f not in brings]
    if brings:
        said.append(" and ".join([_DOES[brings[0]], *(_DOES[f].removeprefix("brings ") for f in brings[1:])]))
    return ", ".join(said) if len(brings) > 1 else listed(said)


def _work(parts: Sequence[Transfer]) -> list[str]:
    """The functions of what something does in others' stead, its two main works."""
    weights: dict[str, float] = {}
    for t in parts:
        weights[t.function] = weights.get(t.function, 0.0) + _weight(t)
    return [f for f, w in sorted(weights.items(), key=lambda kv: -kv[1]) if w > WORTH_A_WORD][:2]


def _how(target: str | None, new: Mapping[str, Candidate], explained: set[str]) -> list[str]:
    """What to do differently for a thing that is new."""
    c = new.get(target) if target and target not in explained else None
    return [c.technique] if c and c.technique else []


def _taste(id_: str, told: _Told) -> list[str]:
    """The taste that goes with a thing, and how to make it good; or that it is lost."""
    return [
        f"{_cap(f.words)}: {mend}." if (mend := mend_of(f, told.writer)) else f"{_cap(f.words)}, and nothing allowed brings it back."
        for f in told.gone
        if uncertified(id_) in f.bearers
    ][:1]


def _figures(parts: Sequence[Transfer], own: str, grams: float, told: _Told) -> str:
    """ "100 g; 76 g of water: soy drink; 0.7 egg of set: ground flaxseed": one clause a function."""
    clauses = [_amount(grams)] if grams else []
    by_function: dict[str, list[Transfer]] = {}
    for t in parts:
        by_function.setdefault(t.function, []).append(t)
    for function, group in sorted(by_function.items(), key=lambda kv: -sum(map(_weight, kv[1]))):
        others = [(t.target if t.source == own else t.source) for t in sorted(group, key=lambda t: -t.amount)]
        names = listed([told.short(x) for x in dict.fromkeys(others) if x and x != own][:2])
        clauses.append(f"{say(sum(t.amount for t in group), group[0].unit, function)}" + (f": {names}" if names else ""))
    return "; ".join(clauses[:5])


def _weight(t: Transfer) -> float:
    return t.amount / _SCALE[t.function]


def _takers(parts: Iterable[Transfer], own: str) -> list[str]:
    by: dict[str, float] = {}
    for t in parts:
        if t.target and t.target != own:
            by[t.target] = by.get(t.target, 0.0) + _weight(t)
    return sorted(by, key=lambda k: (-by[k], k))


def _amount(grams: float) -> str:
    return f"{grams:.0f} g" if grams >= 10 else f"{grams:.1f} g" if grams >= 0.1 else f"{grams:.2f} g"


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


def beside_changes(
    base: Batter, after: Batter, plate: Sequence[tuple[BatterLine, BatterLine | None]], facts: AdaptFacts
) -> tuple[Change, ...]:
    """What changed on the plate or was left off it, and which of several things that a line leaves open was taken."""
    changes: list[Change] = []
    for line, taker in plate:
        old = facts.ingredients[line.ingredient or ""]
        new = facts.ingredients[taker.ingredient or ""] if taker else None
        reason = "On the plate, too, it would not fit." if new else "Left off the plate: nothing that fits stands in for it."
        changes.append(
            Change(source=old.short, target=new.short if new else None, reason=reason, source_id=old.id, target_id=new.id if new else None)
        )
    closed = {x.ingredient for x in after.lines if not x.maybe}
    for line in base.lines:
        if line.maybe and line.ingredient in closed:
            i = facts.ingredients[line.ingredient or ""]
            others = " or ".join(facts.ingredients[m].short for m in line.maybe)
            changes.append(Change(source=i.short, target=i.short, reason=f"Take {i.short}, not {others}.", source_id=i.id, target_id=i.id))
    return tuple(changes)
