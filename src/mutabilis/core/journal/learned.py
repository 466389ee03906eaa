"""What a kitchen has learned, as it is read: what was thought before anything was seen, what each batch told, and what is thought now, in the
kitchen's own units."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..food.ingredients import Ingredient
from ..food.learning import Kind, Lesson, Normal

SURE = 2.0  # standard deviations, within which it lies nineteen times in twenty
NOTHING = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Doubted:
    """A figure with its doubt (nineteen in twenty), in the unit of its subject."""

    value: float
    doubt: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ToldBy:
    """One batch: what it told by itself (None where it only made what is thought less sure: a new bag), and what was thought after it."""

    batch: str
    at: str
    pack: str
    seen: Doubted | None
    then: Doubted


@dataclass(frozen=True, slots=True, kw_only=True)
class Belief:
    """One subject: what it is in words, the unit, what was thought at first, each batch, and what is thought now; `new_bag` where another bag is in
    use than the last that told anything, which makes it less sure."""

    kind: Kind
    subject: str
    name: str
    words: str
    unit: str
    first: Doubted
    told: tuple[ToldBy, ...]
    now: Doubted
    new_bag: bool


WORDS: Mapping[Kind, tuple[str, str]] = {
    "absorption": ("How much 100 g of {} drink", "g"),
    "piece_offset": ("How much wider a test piece runs than the plate", "cm"),
    "pace": ("How long the {} takes where 100 s are reckoned", "s"),
    "fill": ("What a place of the {} takes where 100 mL are written", "mL"),
}


def learned(lessons: Sequence[Lesson], believed: Mapping[str, Mapping[str, Normal]], names: Mapping[str, str], shipped: Mapping[str, Ingredient]) -> tuple[Belief, ...]:  # fmt: skip
    """Every subject of the lessons that stand (the oldest are given first). `believed` is what is thought of each now, new bags reckoned in;
    `shipped` are the ingredients with the table's own thirst, by which a factor becomes grams."""
    by: dict[tuple[Kind, str], list[Lesson]] = {}
    for x in lessons:
        by.setdefault((x.kind, x.subject), []).append(x)
    return tuple(_one(kind, subject, mine, believed, names, shipped) for (kind, subject), mine in by.items())


def _one(
    kind: Kind,
    subject: str,
    mine: Sequence[Lesson],
    believed: Mapping[str, Mapping[str, Normal]],
    names: Mapping[str, str],
    shipped: Mapping[str, Ingredient],
) -> Belief:
    scale = _scale(kind, shipped.get(subject))
    name = names.get(subject, subject)
    words, unit = WORDS[kind]
    now = believed.get(kind, {}).get(subject, mine[-1].after)
    return Belief(
        kind=kind, subject=subject, name=name, words=words.format(name if kind == "absorption" else f"{name[:1].lower()}{name[1:]}"), unit=unit, first=scale(Normal(mean=mine[0].before_mean, sd=mine[0].before_sd)),
        told=tuple(ToldBy(batch=x.batch, at=x.at, pack=x.pack, seen=scale(s) if (s := seen(x)) is not None else None, then=scale(x.after)) for x in mine),
        now=scale(now), new_bag=now.sd > mine[-1].after_sd + NOTHING,
    )  # fmt: skip


def seen(x: Lesson) -> Normal | None:
    """What a batch told by itself: the reading that makes the belief after it out of the one before (precisions subtract, as they add in learning);
    None where it did not make it surer.

    >>> seen(Lesson(kind="pace", subject="g", before_mean=0.0, before_sd=1.0, after_mean=0.5, after_sd=0.5 ** 0.5)).mean
    1.0
    """
    if x.before_sd <= NOTHING or x.after_sd <= NOTHING or x.after_sd >= x.before_sd:
        return None
    before, after = 1 / x.before_sd**2, 1 / x.after_sd**2
    if after - before <= NOTHING * after:
        return None
    return Normal(mean=round((after * x.after_mean - before * x.before_mean) / (after - before), 9), sd=math.sqrt(1 / (after - before)))


def _scale(kind: Kind, i: Ingredient | None) -> Callable[[Normal], Doubted]:
    """From a belief to the kitchen's unit: grams that 100 g drink, centimetres, seconds or millilitres for 100 of them."""
    if kind == "absorption":
        times = 100 * (i.absorption_g_per_g if i is not None else 1.0)
        return lambda n: Doubted(value=n.mean * times, doubt=SURE * n.sd * times)
    if kind == "piece_offset":
        return lambda n: Doubted(value=n.mean, doubt=SURE * n.sd)
    return lambda n: Doubted(value=100 * math.exp(n.mean), doubt=SURE * n.sd * 100 * math.exp(n.mean))
