"""The method in words: the plan of making, as a card tells it, with the bowl that it wants and what is left over."""

from dataclasses import dataclass

from ..analysis.analysis import Analysis
from ..batter.flow import DENSITY
from ..process.parts import PREPARES, Operation, Process, Ways
from ..process.process import process
from ..process.sorting import Item, Use, sort_lines
from .facts import RecipeFacts

TIMED = PREPARES | {"rest", "heat"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One step: what to do, why, and the minutes it takes where it takes any. `lines` are the places of its lines in the batter."""

    key: str
    title: str
    text: str
    why: str
    minutes: float | None
    lines: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """The use of every line in order, the steps, the bowl [L] it wants, and what is left over with a use for it; the plan it is told from."""

    uses: tuple[tuple[Use, tuple[int, ...]], ...]
    steps: tuple[Step, ...]
    bowl_l: float
    leftovers: tuple[str, ...]
    plan: Process


def method(a: Analysis, facts: RecipeFacts, ways: Ways | None = None) -> Method:
    """The method of an analysed batter: its plan, operation by operation; weighing is told by the ingredients."""
    items = sort_lines(a, facts)
    uses: dict[Use, list[int]] = {"soak": [], "dry": [], "wet": [], "late": [], "foam": [], "plate": []}
    for x in items:
        uses[x.use].append(x.at)
    plan = process(a, facts, ways)
    return Method(
        uses=tuple((k, tuple(v)) for k, v in uses.items() if v),
        steps=tuple(step_of(o, plan) for o in plan.operations if o.kind != "weigh"),
        bowl_l=_bowl_l(a),
        leftovers=_left_over(items, facts),
        plan=plan,
    )


def step_of(o: Operation, plan: Process) -> Step:
    """An operation as a step, with the lines that were weighed for it."""
    lines = dict.fromkeys(o.lines)
    for id_ in o.takes:
        taken = plan.op(id_)
        if taken is not None and taken.kind == "weigh":
            lines.update(dict.fromkeys(taken.lines))
    return Step(
        key=o.id, title=o.title, text=o.text, why=o.why, minutes=o.wait_min or o.hands_min if o.kind in TIMED else None, lines=tuple(lines)
    )  # fmt: skip


def _bowl_l(a: Analysis) -> float:
    """A bowl that holds the batter with its gas and leaves room to stir [L], in half litres: a little over twice the batter."""
    litres = (a.batter_g / DENSITY + (a.lift.air_ml + 0.3 * a.lift.co2_ml) / 1000) * 2.2
    return max(0.5, round(litres * 2 + 0.49) / 2)


def _left_over(items: list[Item], facts: RecipeFacts) -> tuple[str, ...]:
    grams: dict[str, float] = {}
    for x in items:
        grams[x.i.id] = grams.get(x.i.id, 0.0) + x.grams
    said: list[str] = []
    for id_, half in facts.leftovers.egg.items():
        i = facts.ingredients[id_]
        count = round(grams.get(id_, 0.0) / (i.unit_g or 30.0))
        other = round(grams.get("egg_yolk" if id_ == "egg_white" else "egg_white", 0.0) / half.grams)
        if count > other:
            n = count - other
            said.append(f"{n} {half.other}{'s' if n > 1 else ''} left over: {half.use}.")
    for id_, pack in facts.leftovers.pack.items():
        used = grams.get(id_, 0.0)
        rest = -used % pack.pack_g
        if used > 0 and rest >= 0.05 * pack.pack_g:
            said.append(f"About {rest:.0f} g of the {pack.of} left over: {pack.use}.")
    return tuple(said)
