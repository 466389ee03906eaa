"""The words of a balance that moved: in the front end as in the core, by the core's own thresholds."""

import pytest

from mutabilis.data import load_facts

TELLINGS = load_facts().tellings


@pytest.mark.parametrize("key", list(TELLINGS.balances))
def test_the_front_end_says_what_the_core_says(pure, key):
    table = {k: t.model_dump() for k, t in TELLINGS.balances.items()}
    pairs = [[a, b] for a in (0.0, 0.3, 5.0, 12.0, 40.0) for b in (0.0, 0.31, 0.4, 5.4, 5.9, 12.4, 12.7, 46.0, 49.0)] + [
        [None, 3.0],
        [3.0, None],
    ]
    told = pure("a.map(([x, y]) => p.moved(b, c, x, y))", pairs, table, key)
    assert told == [TELLINGS.said(key, *pair) for pair in pairs]


def test_three_ribbons_are_named_flour_and_binding_first(pure):
    ribbons = [
        {"function": f, "width": w, "from": 0, "to": 0, "source": "a", "target": "b", "amount": 1, "unit": "g", "weight": 1}
        for f, w in (("fat", 9), ("flour", 4), ("flour", 7), ("salt", 12), ("set", 2), ("water", 5))
    ]
    assert pure("p.thickest(a)", ribbons) == [2, 4, 5]
    assert pure("p.thickest([])") == []
