"""Where the work of each ingredient went: who lost how much of which function, and who took it over."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..balances.setting import gel_set
from ..food.coefficients import per_gram
from ..food.ingredients import Ingredient

# Function, unit, the least that is worth a word, and how much of it weighs as much as a like share of any other: 20 g of flour does about
# as much for a batter as 0.4 egg of set (judgement; for pictures alone).
FUNCTIONS: tuple[tuple[str, str, float, float], ...] = (
    ("flour", "g", 3.0, 20.0), ("water", "g", 5.0, 40.0), ("set", "egg", 0.08, 0.4), ("fat", "g", 1.5, 5.0), ("lift", "mmol", 2.0, 10.0), ("acid", "meq", 1.5, 8.0),
    ("sweet", "g", 2.0, 8.0), ("salt", "g", 0.2, 0.6),
)  # fmt: skip
WEIGHTS = {name: weight for name, _, _, weight in FUNCTIONS}


@dataclass(frozen=True, slots=True, kw_only=True)
class Transfer:
    """`amount` of a function that passed from one ingredient to another; `source` None where nobody had it before,
    `target` None where nobody took it over."""

    function: str
    unit: str
    source: str | None
    target: str | None
    amount: float

    @property
    def weight(self) -> float:
        """How much that is to a batter, beside what passes of other functions."""
        return self.amount / WEIGHTS[self.function]


def work(portions: Sequence[tuple[Ingredient, float]], rest_min: float) -> dict[str, dict[str, float]]:
    """What each ingredient does, by function: {function: {ingredient id: amount}} in the units of FUNCTIONS. What is folded in does its own
    work and nobody else's."""
    portions = [(i, g) for i, g in portions if i.group != "mix_in"]
    gel = sum(g * per_gram(i, rest_min).gel for i, g in portions)
    flour = sum(g * per_gram(i, rest_min).flour for i, g in portions)
    share = gel_set(gel, flour) / gel if gel > 0 else 0.0
    table: dict[str, dict[str, float]] = {name: {} for name, *_ in FUNCTIONS}
    for i, g in portions:
        p = per_gram(i, rest_min)
        values = {
            "flour": g * p.flour, "water": 0.0 if i.is_drinker else g * p.water, "set": max(0.0, g * (p.setting + p.gel * share)), "fat": g * p.fat,
            "lift": g * p.soda, "acid": g * p.acid if i.group != "leavener" else 0.0, "sweet": g * p.sweet, "salt": g * p.salt_taste,
        }  # fmt: skip
        for name, value in values.items():
            if value > 0:
                table[name][i.id] = table[name].get(i.id, 0.0) + value
    return table


def transfers(before: dict[str, dict[str, float]], after: dict[str, dict[str, float]]) -> tuple[Transfer, ...]:
    """Pair what was lost with what was gained, function by function, in proportion; what stayed in one hand stays there."""
    found: list[Transfer] = []
    for name, unit, least, _ in FUNCTIONS:
        old, new = before[name], after[name]
        ids = sorted({*old, *new})
        kept = {i: min(old.get(i, 0.0), new.get(i, 0.0)) for i in ids}
        lost = {i: old.get(i, 0.0) - kept[i] for i in ids if old.get(i, 0.0) - kept[i] > 1e-9}
        gained = {i: new.get(i, 0.0) - kept[i] for i in ids if new.get(i, 0.0) - kept[i] > 1e-9}
        found += [Transfer(function=name, unit=unit, source=i, target=i, amount=v) for i, v in kept.items() if v > least]
        out, into = sum(lost.values()), sum(gained.values())
        moved = min(out, into)
        for i, a in lost.items():
            for j, b in gained.items():
                amount = moved * (a / out) * (b / into)
                if amount > least:
                    found.append(Transfer(function=name, unit=unit, source=i, target=j, amount=amount))
            if out > into and (rest := (out - into) * a / out) > least:
                found.append(Transfer(function=name, unit=unit, source=i, target=None, amount=rest))
        if into > out:
            found += [
                Transfer(function=name, unit=unit, source=None, target=j, amount=(into - out) * b / into)
                for j, b in gained.items()
                if (into - out) * b / into > least
            ]
    return tuple(found)


SAID = {
    "flour": "of flour",
    "water": "of water",
    "set": "of set",
    "fat": "of fat",
    "lift": "of bicarbonate",
    "acid": "of acid",
    "sweet": "of sweetness",
    "salt": "of salt",
}
IN_UNITS = {"g": "g", "egg": "egg", "mmol": "mmol", "meq": "meq"}


def say(amount: float, unit: str, function: str) -> str:
    """An amount of a function in words.

    >>> say(38.4, "g", "water"), say(0.72, "egg", "set")
    ('38 g of water', '0.7 egg of set')
    """
    figure = f"{amount:.0f}" if amount >= 9.5 else f"{amount:.1f}"
    return f"{figure} {IN_UNITS[unit]} {SAID[function]}"
