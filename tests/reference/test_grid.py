"""Every demo batter for every diet: balances kept, diets met, craft respected, no failure silent; the table in docs is this run's."""

from pathlib import Path

import pytest

from mutabilis.core.measures.profile import Profile
from mutabilis.core.process.process import process
from mutabilis.data import load_facts
from tests.core.process.test_process import WAYS, checked
from tests.reference.grid import cases, faults, table
from tests.reference.kinds import screened
from tests.sizes import LONG

DOC = Path(__file__).parents[2] / "docs/grid.md"


@pytest.fixture(scope="module")
def found():
    return cases(load_facts(), Profile())


def test_the_grid(found, facts):
    wrong = {(c.batter, c.diets): faults(c, facts) for c in found if faults(c, facts)}
    assert not wrong
    assert len(found) >= 140 and sum(c.after is not None for c in found) > 0.9 * len(found)


def test_every_answer_of_the_grid_can_be_made_in_every_way(found, facts):
    """The six properties of a plan of making, over all of it; in the usual run each case takes every third way in its turn."""
    for at, case in enumerate(found):
        for answer in case.found.answers:
            for ways in WAYS if LONG else WAYS[at % 3 :: 3]:
                checked(answer.analysis, process(answer.analysis, facts, ways), facts)


def test_the_screens_over_the_grid(found, facts):
    flags = {}
    for case in found:
        lean = any(
            k in facts.diets and any(x.nutrient in ("net_carb_g", "carb_g", "sugars_g") for x in facts.diets[k].limits) for k in case.diets
        )
        if wrong := screened(case.found.base, case.found, case.diets, lean, facts):
            flags[case.batter, case.diets] = wrong
    assert not flags


def test_what_cannot_be_done_names_the_nearest(found):
    for case in found:
        if case.after is None:
            assert case.found.infeasible.nearest is not None, (case.batter, case.diets)


def test_the_table_in_docs_is_current(found, facts):
    assert table(found, facts) in DOC.read_text(encoding="utf-8"), "run: .venv/bin/python -m scripts.grid"
