"""A family of versions: each under the one it came from, whatever is missing."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.sizes import many


@st.composite
def families(draw):
    size = draw(st.integers(0, 14))
    return [{"id": f"v{n}", "parent": draw(st.sampled_from([None, "lost", *(f"v{m}" for m in range(n))]))} for n in range(size)]


@given(families())
@settings(max_examples=many(60), deadline=None)
def test_all_of_it_stands_once_children_beneath_their_parents(pure, members):
    rows = pure("p.familyRows(a)", members)
    order = [r["member"]["id"] for r in rows]
    assert sorted(order) == sorted(m["id"] for m in members)
    by_id = {r["member"]["id"]: r for r in rows}
    for row in rows:
        parent = row["member"]["parent"]
        assert row["parent"] == (parent in by_id) and row["depth"] == len(row["lines"]) <= 5
        if parent in by_id:
            assert order.index(parent) < order.index(row["member"]["id"]) and by_id[parent]["children"]
            assert row["depth"] == min(5, by_id[parent]["depth"] + 1)


def test_a_branch_runs_on_past_a_row_only_where_another_child_follows(pure):
    rows = pure(
        "p.familyRows(a)", [{"id": "a", "parent": None}, {"id": "b", "parent": "a"}, {"id": "c", "parent": "b"}, {"id": "d", "parent": "a"}]
    )
    assert [(r["member"]["id"], r["lines"]) for r in rows] == [("a", []), ("b", [True]), ("c", [True, False]), ("d", [False])]


def test_a_card_of_more_lines_is_set_in_smaller_type(pure):
    def size(lines, steps):
        card = {
            "name": "Cakes", "note": "", "largest": None, "unread": [], "cautions": ["Cook through."], "leftovers": [], "contains": [], "verdicts": [],
            "groups": [{"lines": [{"name": "plain flour", "note": "", "measure": "1 cup"}] * lines}], "steps": [{"text": "Stir. " * 20, "why": ""}] * steps,
        }  # fmt: skip
        return pure("p.typeSize(a)", card)

    sizes = [size(4, 4), size(14, 8), size(40, 20), size(200, 80)]
    assert sizes == sorted(sizes, reverse=True) and sizes[0] == 10.5 and sizes[-1] == 5
