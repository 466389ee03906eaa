"""A mixed-integer linear program in words: columns and rows, wishes that may give way and wishes that must hold, things that are used or not;
and how it is solved by HiGHS fast enough to answer while a key is down. It knows nothing of batter: the rows are in `program`."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from .solver import Rows, minimise

HARD = 400.0  # weight of a wish that must hold, against about 1 for what a cook would notice
SLOPES = 4
GAP = 0.02  # of the objective; a cook would not notice what lies between


@dataclass(slots=True, kw_only=True)
class Solved:
    """Grams by candidate, the value of the objective, and what could not be held (name to how far off)."""

    grams: list[float]
    used: frozenset[str]
    objective: float
    broken: dict[str, float]


class Linear:
    """Rows and columns, the first columns being grams [g] between `low` and `high` of what `ids` names; `few`, how many of what is new the
    binaries decide among."""

    def __init__(self, ids: Sequence[str], low: Sequence[float], high: Sequence[float], few: int) -> None:
        self.ids = ids
        self.n = len(ids)
        self.few = few
        self._costs: list[float] = [0.0] * self.n
        self._low = list(low)
        self._high = list(high)
        self._integer: list[int] = [0] * self.n
        self._rows: list[dict[int, float]] = []
        self._row_low: list[float] = []
        self._row_high: list[float] = []
        self._hard: dict[str, tuple[list[int], float]] = {}
        self._binary: dict[str, int] = {}
        self._tops: dict[str, float] = {}
        self._hopeless = False

    def _weight_of(self, name: str) -> float:
        """The weight of a wish that must hold."""
        return HARD

    def _column(self, cost: float, low: float = 0.0, high: float = math.inf, integer: bool = False) -> int:
        self._costs.append(cost)
        self._low.append(low)
        self._high.append(high)
        self._integer.append(int(integer))
        return len(self._costs) - 1

    def _row(self, entries: dict[int, float], low: float, high: float) -> int:
        self._rows.append(entries)
        self._row_low.append(low)
        self._row_high.append(high)
        return len(self._rows) - 1

    def _sum(self, values: Sequence[float]) -> dict[int, float]:
        return {i: v for i, v in enumerate(values) if abs(v) > 1e-12}

    def _near(self, entries: dict[int, float], target: float, notice: float, weight: float, under_only: bool = False) -> None:
        """A soft equality: each `notice` of difference costs `weight`."""
        notice = max(notice, 1e-6)
        below = self._column(weight / notice)
        row = {**entries, below: 1.0}
        if not under_only:
            row[self._column(weight / notice)] = -1.0
        self._row(row, target, math.inf if under_only else target)

    def _must(self, name: str, entries: dict[int, float], low: float, high: float, scale: float) -> int:
        """A wish that must hold, with a slack that is looked at afterwards."""
        scale = max(scale, 1e-6)
        row, slacks = dict(entries), []
        hard = self._weight_of(name)
        if low > -math.inf:
            slacks.append(self._column(hard / scale))
            row[slacks[-1]] = 1.0
        if high < math.inf:
            slacks.append(self._column(hard / scale))
            row[slacks[-1]] = -1.0
        old, _ = self._hard.get(name, ([], scale))
        self._hard[name] = (old + slacks, scale)
        return self._row(row, low, high)

    def pin(self, ingredient: str, least_g: float) -> None:
        """Demand at least `least_g` [g] of a candidate."""
        for i, id_ in enumerate(self.ids):
            if id_ == ingredient:
                self._low[i] = max(self._low[i], min(least_g, self._high[i]))
                if ingredient in self._binary:
                    self._low[self._binary[ingredient]] = 1.0

    def solve(
        self,
        only: frozenset[str] | None = None,
        thorough: bool = False,
        without: frozenset[int] = frozenset(),
        fixed: Mapping[int, float] | None = None,
        quick: bool = False,
        wide: bool = False,
    ) -> Solved | None:
        """Solve. `only` fixes which new ingredients are used and makes the rest a plain linear
        program; `without` leaves out candidates by their place, `fixed` holds some at their grams; `quick` takes the narrowed
        answer even where it cannot hold a hard wish. None where nothing satisfies the rows.

        Choosing among all candidates with binaries takes a second; so the field is narrowed first by a few linear programs
        with sloped fixed costs (dynamic slope scaling, Kim and Pardalos 1999), and the binaries decide among those that
        showed up. `thorough` skips the narrowing: the measure that the benchmark holds it against.
        """
        rows = Rows.of(self._rows, self._row_low, self._row_high)
        column_low, column_high = np.array(self._low), np.array(self._high)
        costs, integer = np.array(self._costs), np.array(self._integer)
        for at in without:
            column_high[at] = 0.0
        for at, grams in (fixed or {}).items():
            column_low[at] = column_high[at] = grams
        if only is not None:
            for id_, column in self._binary.items():
                column_low[column] = column_high[column] = float(id_ in only)
            integer = np.zeros_like(integer)
        elif not thorough and len(self._binary) > 9:
            promising = self._promising(rows, 2 * self.few if wide else self.few)
            for id_, column in self._binary.items():
                if id_ not in promising:
                    column_high[column] = 0.0
        result = minimise(costs, rows, column_low, column_high, integer, 0.02 if thorough else GAP)
        if result is None:
            return None
        x, value = result
        if only is None and not thorough and not quick and not self._hopeless and self._short(x):
            # Narrowed too far, or it cannot be done: say so only after a full look.
            return self.solve(thorough=wide, wide=not wide, without=without, fixed=fixed)
        used = frozenset(id_ for id_, column in self._binary.items() if x[column] > 0.5)
        broken = {name: sum(float(x[s]) for s in slacks) / scale for name, (slacks, scale) in self._hard.items()}
        return Solved(
            grams=[max(0.0, float(v)) for v in x[: self.n]],
            used=used,
            objective=value,
            broken={k: v for k, v in broken.items() if v > 0.02},
        )

    def _short(self, x: Any) -> bool:
        """Whether a hard wish is missed by more than rounding."""
        return any(x[s] > 0.02 * scale for slacks, scale in self._hard.values() for s in slacks)

    def _promising(self, rows: Rows, most: int) -> set[str]:
        """The new ingredients worth a binary: those that any of a few sloped linear programs takes up."""
        where = {id_: i for i, id_ in enumerate(self.ids)}
        tops = {id_: self._tops[id_] for id_ in self._binary}
        slope = {id_: 1.0 / max(0.35 * top, 1e-6) for id_, top in tops.items()}
        self._hopeless = False
        found: dict[str, float] = {id_: math.inf for id_, column in self._binary.items() if self._low[column] > 0}
        for _ in range(SLOPES):
            costs = np.array(self._costs)
            for id_, column in self._binary.items():
                costs[where[id_]] += costs[column] * slope[id_]
                costs[column] = 0.0
            result = minimise(costs, rows, np.array(self._low), np.array(self._high), None, 0.0)
            if result is None:
                break
            x, _ = result
            # Even with binaries relaxed a hard wish fails: no choice among them can mend it.
            self._hopeless = self._hopeless or self._short(x)
            for id_ in self._binary:
                grams = x[where[id_]]
                if grams > 1e-3 * tops[id_]:
                    # What the later, better informed programs take up counts for more.
                    found[id_] = found.get(id_, 0.0) / 2 + 1.0
                    slope[id_] = 1.0 / grams
        return set(sorted(found, key=lambda id_: (-found[id_], id_))[:most])
