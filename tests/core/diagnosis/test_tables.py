"""The tables of a diagnosis agree with each other, and each row says how sure it is and whence."""

import pytest

from mutabilis.core.diagnosis.tables import DiagnosisTables
from mutabilis.data import load_diagnosis, load_facts

TABLES = load_diagnosis()


def test_every_cause_makes_a_fault_is_told_by_a_figure_or_a_question_and_has_a_trial():
    linked, told = {x.cause for x in TABLES.links}, {x.cause for x in TABLES.evidence} | {q.cause for q in TABLES.questions}
    assert len(TABLES.causes) == 37 and len(TABLES.links) == 183 and len(TABLES.evidence) == 101
    for c in TABLES.causes:
        assert c.cause in linked and c.cause in told and c.trial and 0.02 <= c.prior <= 0.08, c.cause


def test_every_fault_has_a_cause_and_the_stove_tells_the_same_faults():
    for fault in TABLES.network.faults:
        assert len({x.cause for x in TABLES.links if x.fault == fault}) >= 1, fault
    assert set(load_facts().stove.faults) == set(TABLES.network.faults) and len(TABLES.network.faults) == 24


def test_the_usual_answers_to_a_question_come_to_one():
    for id in dict.fromkeys(q.question for q in TABLES.questions):
        rows = [q for q in TABLES.questions if q.question == id]
        for cause in dict.fromkeys(q.cause for q in rows):
            total = sum(q.probability for q in rows if q.cause == cause)
            assert total == pytest.approx(1, abs=0.011), (id, cause)
        assert len({q.text for q in rows}) == 1 and {q.answer for q in rows if q.cause == "*"} >= {q.answer for q in rows}


def test_what_speaks_for_a_cause_weighs_more_where_it_points():
    assert all(e.with_ > e.without or e.with_ < 0 for e in TABLES.evidence)
    assert all(e.source.startswith(("K:", "L:")) for e in (*TABLES.evidence, *TABLES.causes, *TABLES.links, *TABLES.questions))


@pytest.mark.parametrize("wrong", ["links", "evidence", "questions"])
def test_a_row_of_what_is_not_there_is_refused(wrong):
    rows = {k: [r.model_dump(by_alias=True) for r in getattr(TABLES, k)] for k in ("causes", "links", "evidence", "questions")}
    rows[wrong][0] = rows[wrong][0] | {"cause": "the_moon"}
    with pytest.raises(ValueError, match="no cause the_moon"):
        DiagnosisTables.from_rows(rows["causes"], rows["links"], rows["evidence"], rows["questions"], TABLES.network.model_dump())


def test_a_figure_that_another_cause_explains_is_set_aside():
    e = next(x for x in TABLES.evidence if x.cause == "water_low" and x.feature == "spread_vs_band_cm")
    assert (
        e.explained({"gel_saturation": 0.8})
        and e.explained({"swap_shift_cm": 1.2})
        and not e.explained({"gel_saturation": 0.7})
        and not e.explained({})
    )
