"""Dishes beside the batter: how each is made, when it is begun so that it is ready with the first plate, and what it yields."""

import re

from ..analysis.sides import dishes
from ..batter.batter import BatterLine
from ..food.functions import SOAKED
from ..words import listed
from .facts import ProcessFacts, SideKind
from .parts import SideWork, operation
from .shelf import Shelf
from .sorting import Item
from .words import small

SWEET = ("sugar", "liquid_sweetener", "polyol_sweetener", "starch")
FRUITS = ("fruit_puree", "mix_in")


def kind_of(name: str, lines: list[tuple[BatterLine, Item]], facts: ProcessFacts) -> SideKind | None:
    """The kind of a dish: by its heading, else by what is in it. None where it is only laid on, one thing or the sugar of an iron."""
    words = re.findall(r"[a-z]+", name.lower())
    table = facts.process.sides
    if set(words) & set(table.into.iron):
        return None
    total = sum(x.grams for _, x in lines)
    seeds_or_sweet = sum(x.grams for _, x in lines if x.i.group in SWEET or x.i.id in SOAKED)
    fruit = sum(x.grams for _, x in lines if x.i.group in FRUITS and x.i.water_g > 60)
    named = next((k for word in reversed(words) for k in table.kinds if word in k.heading), None)
    if len(lines) < 2 and (named is None or named.key == "cold"):
        return None
    if named is None or named.key == "cold":
        t = table.thicken
        if total > 0 and fruit >= t.fruit * total and seeds_or_sweet >= t.sweet * total and not set(words) & set(t.raw):
            return next(k for k in table.kinds if k.key in t.soft)
        return next(k for k in table.kinds if k.key == "cold")
    return named


def side_works(items: list[Item], facts: ProcessFacts, shelf: Shelf | None = None) -> tuple[SideWork, ...]:
    """The making of every dish beside a batter; its portions are taken off the shelf."""
    shelf = shelf or Shelf(items)
    by_place = {x.at: x for x in items}
    lines = tuple(by_place[at].line if at in by_place else BatterLine() for at in range(max(by_place, default=-1) + 1))
    found = []
    for n, (name, places) in enumerate(dishes(lines).items(), 1):
        own = [by_place[at] for at in places if at in by_place]
        kind = kind_of(name, [(x.line, x) for x in own], facts)
        if kind is not None:
            found.append(_work(n, name, kind, own, facts, shelf))
    return tuple(found)


def _work(n: int, name: str, kind: SideKind, own: list[Item], facts: ProcessFacts, shelf: Shelf) -> SideWork:
    t = facts.process.sides.thicken
    heated = kind.does != "mix"
    seeds = [x for x in own if x.i.id in SOAKED]
    starch = [x for x in own if x.i.group == "starch"] if kind.does == "simmer" else []
    portions = shelf.take_all(own)
    first = [x for x in own if x not in starch and not (heated and x in seeds)] or own
    text = kind.text.format(names=_weights(first))
    if starch and len(starch) < len(own):
        text += f" {t.starch.format(names=_weights(starch))}"
    eggs = heated and any(x.i.group == "egg" for x in own)
    cautions = [kind.caution] if kind.caution else []
    if any(x.i.group == "egg" for x in own):
        cautions.append(facts.safety.words("cooked" if heated else "cook_through"))
    weigh = operation(
        f"weigh_side_{n}", "weigh", kind.vessel, name, f"For the {small(name)}: {_weights(own)}.", portions=portions,
        hands=facts.process.minutes.weigh * len(own), side=name,
    )  # fmt: skip
    made = operation(
        f"side_{n}", kind.does, kind.vessel, name, text, f"Begun so that it is ready with the first plate. It makes about {kind.leaves * sum(x.grams for x in own):.0f} g.",
        takes=(weigh.id,), hands=kind.hands, wait=kind.wait, done=kind.done + (f", {facts.safety.centre.both} in the middle" if eggs else ""), lines=tuple(x.at for x in own),
        cautions=tuple(cautions), side=name,
    )  # fmt: skip
    found = [weigh, made]
    if heated and seeds and len(seeds) < len(own):
        minutes = max(x.i.absorption_minutes for x in seeds)
        found.append(
            operation(
                f"side_{n}_stand", "soak", kind.vessel, f"{name}: let it gel", t.seed.format(names=_weights(seeds)), "Seeds set only once they have drunk.",
                takes=(made.id,), hands=0.5, wait=minutes, done="it holds on the spoon", lines=tuple(x.at for x in seeds), side=name,
            )
        )  # fmt: skip
    return SideWork(
        name=name, kind=kind.key, lines=tuple(x.at for x in own), yield_g=kind.leaves * sum(x.grams for x in own), hands_min=sum(o.hands_min for o in found[1:]),
        wait_min=sum(o.wait_min for o in found), days=kind.days, operations=tuple(found), swirled=bool(set(re.findall(r"[a-z]+", name.lower())) & set(facts.process.sides.into.swirl)),
    )  # fmt: skip


def _weights(found: list[Item]) -> str:
    return listed(f"{x.grams:.0f} g {x.i.short}" if x.grams >= 1 else f"{x.grams:.1f} g {x.i.short}" for x in found)
