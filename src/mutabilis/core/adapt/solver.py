"""One call of HiGHS, straight through its own binding: no detour, and the settings that suit a bowl of batter."""

import os
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from threading import Lock
from typing import Any

import numpy as np

# A batter's program has some hundred columns and a handful of binaries: restarts, symmetry and the search heuristics cost more
# there than they find (measured over the grid).
SETTINGS: dict[str, bool | int | float] = {
    "output_flag": False, "threads": 1, "time_limit": 20.0, "mip_heuristic_effort": 0.0, "mip_detect_symmetry": False, "mip_allow_restart": False,
    "mip_heuristic_run_root_reduced_cost": False, "mip_heuristic_run_rins": False, "mip_heuristic_run_rens": False, "mip_heuristic_run_feasibility_jump": False,
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows:
    """The rows of a program, compressed by row: low ≤ Σ value·x ≤ high."""

    starts: Any
    indices: Any
    values: Any
    low: Any
    high: Any

    @classmethod
    def of(cls, rows: Sequence[dict[int, float]], low: Sequence[float], high: Sequence[float]) -> "Rows":
        """Packed from dictionaries of column → coefficient."""
        starts, indices, values = [0], list[int](), list[float]()
        for row in rows:
            indices.extend(row.keys())
            values.extend(row.values())
            starts.append(len(indices))
        return cls(
            starts=np.array(starts, np.int32),
            indices=np.array(indices, np.int32),
            values=np.array(values),
            low=np.array(low),
            high=np.array(high),
        )


def minimise(costs: Any, rows: Rows, column_low: Any, column_high: Any, integer: Any | None, gap: float) -> tuple[Any, float] | None:
    """The columns and the value at the least cost; None where no point satisfies the rows. Same input, same answer: the limit on
    time is far beyond what any batter takes."""
    import highspy

    solver = _solver()
    for name, value in SETTINGS.items():
        solver.setOptionValue(name, value)
    whole = integer is not None and integer.any()
    # Presolve pays for itself where there is something to decide; a plain linear program of this size is done in half the time without.
    solver.setOptionValue("presolve", "on" if whole else "off")
    solver.setOptionValue("mip_rel_gap", gap)
    program = highspy.HighsLp()
    program.num_col_, program.num_row_ = len(costs), len(rows.low)
    program.col_cost_, program.col_lower_, program.col_upper_ = costs, column_low, column_high
    program.row_lower_, program.row_upper_ = rows.low, rows.high
    program.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    program.a_matrix_.num_col_, program.a_matrix_.num_row_ = len(costs), len(rows.low)
    program.a_matrix_.start_, program.a_matrix_.index_, program.a_matrix_.value_ = (
        rows.starts,
        rows.indices,
        rows.values,
    )
    if integer is not None and whole:
        program.integrality_ = _kinds(tuple(bool(i) for i in integer))
    solver.passModel(program)
    solver.run()
    info = solver.getInfo()
    if info.primal_solution_status != int(highspy.SolutionStatus.kSolutionStatusFeasible):
        return None
    return np.array(solver.getSolution().col_value), float(info.objective_function_value)


def warm() -> None:
    """Load the solver ahead of the first question."""
    _solver()


@cache
def _kinds(integer: tuple[bool, ...]) -> list[Any]:
    import highspy

    return [highspy.HighsVarType.kInteger if i else highspy.HighsVarType.kContinuous for i in integer]


_first = Lock()
_greeted = False


def _solver() -> Any:
    """A new solver. The first of a process greets on standard output before any setting can stop it; a script that reads JSON there
    must not see it, so that one is made with the output turned away."""
    global _greeted
    import highspy

    with _first:
        if not _greeted:
            _greeted = True
            kept, nowhere = os.dup(1), os.open(os.devnull, os.O_WRONLY)
            try:
                os.dup2(nowhere, 1)
                highspy.Highs()  # type: ignore[no-untyped-call]
            finally:
                os.dup2(kept, 1)
                os.close(kept)
                os.close(nowhere)
    return highspy.Highs()  # type: ignore[no-untyped-call]
